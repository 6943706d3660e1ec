import { bodyOf, sendsFromSpot } from '@tidytrail/core/level'
import type { Check } from '../check'
import { metres, restingOn } from '../words'

/** Somebody may appear so high above the floor without it being called a fall, metres. */
const DROP_M = 0.5

export const spawnerFloating: Check = {
  id: 'spawner.floating',
  stage: 'cast',
  severity: 'warning',
  sentence: 'A spawner hangs in the air: its agents would appear there and be on the floor below at once.',
  each: 'spawners',
  run(look, id) {
    const spawner = look.level.thing('spawners', id)!
    // Where nobody appears at its spot that does not matter.
    if (!sendsFromSpot(spawner)) return []
    const profile = spawner.profileId ? look.level.thing('profiles', spawner.profileId) : undefined
    if (profile && bodyOf(profile.medium).flies) return []
    const [x, y, z] = spawner.at
    const { floor, above } = restingOn(look.ground.floors(x, y), z)
    if (above <= DROP_M) return []
    const what = look.ground.surface(floor.surface)?.name ?? 'the ground'
    return [
      {
        subjects: [id],
        at: spawner.at,
        message: `${spawner.name} hangs ${metres(above)} above ${what}.`,
        fix: {
          label: 'Settle it on the floor',
          edit: 'movePlaces',
          args: { places: { [id]: [x, y, floor.z] }, word: 'Settle' },
        },
      },
    ]
  },
}
