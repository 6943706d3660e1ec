import { GROUND } from '@tidytrail/core/ground'
import type { Check } from '../check'
import { metres, restingOn, SETTLED_M, waypointLabel } from '../words'

/** Sunk deeper than this into a solid, a waypoint is inside it rather than below its floor, metres. */
const INSIDE_M = 1

export const waypointBuried: Check = {
  id: 'waypoint.buried',
  stage: 'routes',
  severity: 'warning',
  sentence: 'A waypoint is sunk below the floor it belongs to.',
  each: 'waypoints',
  run(look, id) {
    const waypoint = look.level.thing('waypoints', id)!
    const [x, y, z] = waypoint.at
    const { floor, above } = restingOn(look.ground.floors(x, y), z - waypoint.liftM)
    if (above >= -SETTLED_M || (floor.surface !== GROUND && above < -INSIDE_M)) return []
    const what = floor.surface === GROUND ? 'the ground' : `the top of ${look.ground.surface(floor.surface)!.name}`
    return [
      {
        subjects: [id],
        at: waypoint.at,
        message: `${waypointLabel(look, id, waypoint)} lies ${metres(-above)} below ${what}.`,
        fix: {
          label: 'Settle it on the floor',
          edit: 'movePlaces',
          args: { places: { [id]: [x, y, floor.z + waypoint.liftM] }, word: 'Settle' },
        },
      },
    ]
  },
}
