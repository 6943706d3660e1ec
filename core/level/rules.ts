import type { z } from 'zod'

/** A rule over a whole value: why it is broken, or undefined when it holds. */
export type Rule = (value: never) => string | undefined

const rules = new WeakMap<z.ZodType, readonly Rule[]>()

/** The rules a schema was given by `ruled`, so that they can be looked at without reading all that the value holds. */
export const rulesOf = (schema: z.ZodType): readonly Rule[] => rules.get(schema) ?? []

/** A schema whose values also keep some rules that look at more than one of their parts. */
export function ruled<S extends z.ZodType>(schema: S, ...all: ((value: z.output<S>) => string | undefined)[]): S {
  const whole = schema.superRefine((value, context) => {
    for (const rule of all) {
      const why = rule(value)
      if (why !== undefined) context.addIssue({ code: 'custom', message: why })
    }
  })
  rules.set(whole, all as unknown as Rule[])
  return whole
}
