import type { Level } from '@tidytrail/core/level'
import { FRAMES_PER_SECOND } from '@tidytrail/core/rehearsal'

/** From so many agents on it is said what a rehearsal takes; reckoned with so much for each. */
const MANY = 5000
const STEPS_A_SECOND = 150_000
const BYTES_A_FRAME = 10
const BYTES_AN_AGENT = 20_000

/** What a rehearsal of a level will take, where that is much: agents, seconds of work, megabytes. */
export function priceOf(level: Level) {
  const count = Object.values(level.spawners).reduce((n, s) => n + (s.profileId ? s.count : 0), 0)
  if (count < MANY) return undefined
  const { rehearseS, stepsPerSecond } = level.settings
  return {
    agents: count,
    workS: (count * rehearseS * stepsPerSecond) / STEPS_A_SECOND,
    megabytes: (count * (rehearseS * FRAMES_PER_SECOND * BYTES_A_FRAME + BYTES_AN_AGENT)) / 1e6,
  }
}
