import { sendsFromSpot } from '@tidytrail/core/level'
import { GROUND } from '@tidytrail/core/ground'
import type { Check } from '../check'
import { movesToReach, MOST_MOVED_M } from '../moving'
import { islandsOfBrief } from '../travellers'
import { restingOn, SETTLED_M } from '../words'

export const spawnerInsideSolid: Check = {
  id: 'spawner.inside-solid',
  stage: 'cast',
  severity: 'blocker',
  sentence: 'A spawner lies inside a solid, so its agents would appear in a wall.',
  each: 'spawners',
  run(look, id) {
    const spawner = look.level.thing('spawners', id)!
    // Where nobody appears at its spot that does not matter.
    if (!sendsFromSpot(spawner)) return []
    const [x, y, z] = spawner.at
    const { floor, above } = restingOn(look.ground.floors(x, y), z)
    if (floor.surface === GROUND || above >= -SETTLED_M) return []
    const map = spawner.profileId ? look.reach.map(spawner.profileId, spawner.at, MOST_MOVED_M) : undefined
    const solid = look.ground.surface(floor.surface)!
    return [
      {
        subjects: [id, solid.id],
        at: spawner.at,
        message: `${spawner.name} lies inside ${solid.name}.`,
        ...(map ? movesToReach(map, id, 'the spawner', spawner.at, islandsOfBrief(look, spawner)) : {}),
      },
    ]
  },
}
