import { z } from 'zod'

export const jobKeySchema = z.string().regex(/^jb_[a-z0-9]{6,32}$/, 'is not the id of a job')

const seed = z.number().int().min(0).max(0x7fffffff)

/** A job: rehearse a level as it is now with many seeds. */
export const newJobSchema = z.object({
  kind: z.literal('seeds'),
  /** The first seed, and how many in a row; or the seeds themselves. */
  first: seed.optional(),
  count: z.number().int().min(1).max(1000).optional(),
  seeds: z.array(seed).min(1).max(1000).optional(),
  /** Length of each, seconds; that of the level where none is given. */
  seconds: z.number().min(1).max(7200).optional(),
})
export type NewJob = z.output<typeof newJobSchema>

/** What is kept of one rehearsal of many. */
export const runFiguresSchema = z.object({
  seed,
  hash: z.string(),
  passes: z.boolean(),
  figures: z.array(z.object({ name: z.string(), unit: z.string(), value: z.number() })),
  trials: z.array(
    z.object({
      trialId: z.string(),
      holds: z.boolean().optional(),
      words: z.string(),
      momentS: z.number().optional(),
    }),
  ),
})

export const JOB_STATES = ['waiting', 'running', 'done', 'cancelled', 'failed'] as const
export const jobSchema = z.object({
  id: jobKeySchema,
  kind: z.literal('seeds'),
  state: z.enum(JOB_STATES),
  /** Parts in all, and how many are done. */
  total: z.number().int(),
  done: z.number().int(),
  /** Why it failed; null when it has not. */
  error: z.string().nullable(),
  /** What came of the parts that are done, in the order they were done in. */
  results: z.array(runFiguresSchema),
})
export type Job = z.output<typeof jobSchema>
