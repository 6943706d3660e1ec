import { z } from 'zod'

const metres = z.number()
const place = z.tuple([metres, metres, metres])

/** What `tidytrail check --format json` prints. */
export const checkReportSchema = z.object({
  level: z.string(),
  findings: z.array(
    z.object({
      check: z.string(),
      severity: z.enum(['blocker', 'warning', 'note']),
      subjects: z.array(z.string()),
      at: place,
      message: z.string(),
      /** Ways out, each an edit that has been tried and leaves nothing as grave behind. */
      ways: z.array(z.object({ label: z.string(), edit: z.string(), args: z.unknown() })),
    }),
  ),
})

/** What `tidytrail rehearse --format json` prints. Metres and seconds. */
export const rehearseReportSchema = z.object({
  level: z.string(),
  seed: z.number().int(),
  seconds: z.number(),
  hash: z.string().regex(/^[0-9a-f]{16}$/),
  verdicts: z.array(
    z.object({
      agent: z.string(),
      name: z.string(),
      route: z.string().nullable(),
      routeName: z.string().nullable(),
      verdict: z.enum(['follows', 'follows-with-remarks', 'does-not-follow', 'not-tried']),
      crossTrack: z.object({ rms: metres, p95: metres, max: metres }),
      stops: z.object({ made: z.number().int(), missed: z.number().int(), due: z.number().int() }),
      legs: z.object({ tookS: z.number(), expectedS: z.number() }),
      longestStuckS: z.number(),
      /** How long it ran into others, seconds. */
      overlapS: z.number(),
      reasons: z.array(z.string()),
    }),
  ),
})

/** What `tidytrail trial --format json` prints. Seconds. */
export const trialReportSchema = z.object({
  level: z.string(),
  seconds: z.number(),
  seeds: z.array(z.number().int()),
  trials: z.array(
    z.object({
      id: z.string(),
      /** The statement in words. */
      says: z.string(),
      /** Does it hold in every run in which that could be told? null where it could be told in none. */
      holds: z.boolean().nullable(),
      held: z.number().int(),
      told: z.number().int(),
      failedSeeds: z.array(z.number().int()),
      /** What was measured, in the first run that failed where one did; and its moment. */
      words: z.string(),
      momentS: z.number().nullable(),
    }),
  ),
})
