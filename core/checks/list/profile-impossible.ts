import { bodyOf } from '@tidytrail/core/level'
import { exact } from '@tidytrail/core/geometry'
import { smallestCircleM } from '@tidytrail/core/rehearsal'
import type { Check } from '../check'
import { metres } from '../words'

/** Nothing moves by more than this share of its radius in a step: it could pass through what is thin. */
const MOST_A_STEP = 1
/** A circle wider than this at its slowest is none a level has room for, metres. */
const WIDEST_M = 200

/** What a profile's own numbers do not let it do. */
export const profileImpossible: Check = {
  id: 'profile.impossible',
  stage: 'reach',
  severity: 'warning',
  sentence:
    'A profile cannot move as its own numbers say: too fast for a step, too slow to fly, or with nowhere to turn or climb.',
  each: 'spawners',
  run(look, id) {
    const { profileId, at } = look.level.thing('spawners', id)!
    const profile = profileId ? look.level.thing('profiles', profileId) : undefined
    if (!profile) return []
    const settings = look.level.settings()
    const body = bodyOf(profile.medium)
    const speeds = Object.values(profile.gaits)
    const fastest = Math.max(...speeds)
    const stepM = fastest / settings.stepsPerSecond
    const told = (message: string) => [{ subjects: [id, profileId!], at, message: `${profile.name} ${message}.` }]
    if (!Object.hasOwn(profile.gaits, profile.gait))
      return told(`goes at “${profile.gait}” when told nothing else, which is none of its gaits`)
    if (stepM > MOST_A_STEP * profile.radiusM)
      return told(
        `moves ${metres(stepM)} at each of ${settings.stepsPerSecond} steps a second at ${fastest.toFixed(1)} m/s, more than its radius of ${metres(profile.radiusM)}`,
      )
    if (body.flies && profile.slowestMps > fastest)
      return told(
        `needs ${profile.slowestMps.toFixed(1)} m/s to stay up and goes no faster than ${fastest.toFixed(1)} m/s`,
      )
    if (body.flies && profile.minAltitudeM > profile.maxAltitudeM)
      return told(
        `flies above ${metres(profile.minAltitudeM)} and below ${metres(profile.maxAltitudeM)}, which is nowhere`,
      )
    const circle = smallestCircleM(profile)
    if (circle > WIDEST_M) return told(`turns in no smaller a circle than ${metres(circle)}`)
    const rise = exact.tan(Math.min(profile.maxSlopeRad, 1.5))
    if (body.stands && !body.turnsOnTheSpot && rise * 9.81 > 4 * profile.accelMps2)
      return told(
        `is to climb ${Math.round((profile.maxSlopeRad * 180) / Math.PI)}°, which takes far more than its acceleration of ${profile.accelMps2.toFixed(1)} m/s²`,
      )
    return []
  },
}
