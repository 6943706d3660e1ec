import { whyOf, keysOf } from '@tidytrail/core/level'
import type { z } from 'zod'
import { HttpProblem } from './problem'

/** The value a schema makes of some input. @throws HttpProblem 400 that names the place */
export function validOr<S extends z.ZodType>(schema: S, input: unknown, what: string): z.output<S> {
  const result = schema.safeParse(input)
  if (result.success) return result.data
  const issue = result.error.issues[0]
  const at = keysOf(issue).join('.')
  throw new HttpProblem(400, `${what}: ${whyOf(issue)}`, at ? { at } : {})
}
