import { GROUND } from '@tidytrail/core/ground'
import { whyNotHere } from '@tidytrail/core/reach'
import { bodyOf, sendsFromSpot } from '@tidytrail/core/level'
import type { Check } from '../check'
import { movesToReach, MOST_MOVED_M } from '../moving'
import { islandsOfBrief } from '../travellers'
import { restingOn, SETTLED_M } from '../words'

export const spawnerOffReach: Check = {
  id: 'spawner.off-reach',
  stage: 'cast',
  severity: 'blocker',
  sentence: 'A spawner lies where its agents cannot stand.',
  each: 'spawners',
  run(look, id) {
    const spawner = look.level.thing('spawners', id)!
    // Where nobody appears at its spot that does not matter.
    if (!sendsFromSpot(spawner)) return []
    if (!spawner.profileId) return []
    const map = look.reach.map(spawner.profileId, spawner.at, MOST_MOVED_M)
    if (!map || map.reachedAt(...spawner.at)) return []
    const { floor, above } = restingOn(look.ground.floors(spawner.at[0], spawner.at[1]), spawner.at[2])
    const profile = look.level.thing('profiles', spawner.profileId)!
    // What is inside a solid or under the ground is found as that.
    if (above < -SETTLED_M && (floor.surface !== GROUND || !bodyOf(profile.medium).floats)) return []
    const why = whyNotHere(map, spawner.at) ?? 'no floor to stand on'
    return [
      {
        subjects: [id],
        at: spawner.at,
        message: `${profile.name} cannot stand at ${spawner.name}: ${why}.`,
        ...movesToReach(map, id, 'the spawner', spawner.at, islandsOfBrief(look, spawner)),
      },
    ]
  },
}
