import { z } from 'zod'
import { revisionSchema } from './levels'

/** Media type and shape of every error (RFC 9457). */
export const PROBLEM_TYPE = 'application/problem+json'

export const problemSchema = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  /** What went wrong and what would help, for people. */
  detail: z.string(),
  /** The place in the document or patch, where there is one. */
  at: z.string().optional(),
  /** The revision the level has now, when a save was refused as stale. */
  revision: z.number().int().optional(),
  /** What was changed since, when a save was refused as stale and it is not too much to send. */
  changes: z.array(revisionSchema).optional(),
})
export type Problem = z.output<typeof problemSchema>
