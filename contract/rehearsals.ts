import { z } from 'zod'

export const rehearsalKeySchema = z.string().regex(/^rh_[a-z0-9]{6,32}$/, 'is not the id of a kept rehearsal')

/** Bytes of a stretch of a kept rehearsal, and how many there may be. */
export const STRETCH_BYTES = 1024 * 1024
export const MOST_STRETCHES = 256

/** What is told of a kept rehearsal in a list. Seconds. */
export const rehearsalAboutSchema = z.object({
  name: z.string().min(1).max(200),
  revision: z.number().int().min(0),
  seed: z.number().int().min(0),
  seconds: z.number().min(0),
  hash: z.string().max(32),
  agents: z.number().int().min(0),
  /** How many follow, follow with remarks, do not, and were not tried. */
  verdicts: z.object({ follows: z.number(), remarks: z.number(), fails: z.number(), untried: z.number() }),
  trials: z.object({ holds: z.number(), fails: z.number() }),
  /** Bytes of the whole file. */
  bytes: z
    .number()
    .int()
    .min(1)
    .max(STRETCH_BYTES * MOST_STRETCHES),
})
export type RehearsalAbout = z.output<typeof rehearsalAboutSchema>

export const rehearsalSchema = rehearsalAboutSchema.extend({ id: rehearsalKeySchema, createdAt: z.string() })
export type KeptRehearsal = z.output<typeof rehearsalSchema>
export const rehearsalListSchema = z.object({ rehearsals: z.array(rehearsalSchema) })
export const rehearsalMadeSchema = z.object({ id: rehearsalKeySchema })
