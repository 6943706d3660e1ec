import { z } from 'zod'

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
})
export type Problem = z.output<typeof problemSchema>
