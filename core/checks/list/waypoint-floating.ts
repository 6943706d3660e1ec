import type { Check } from '../check'
import { metres, restingOn, SETTLED_M, waypointLabel } from '../words'

export const waypointFloating: Check = {
  id: 'waypoint.floating',
  stage: 'routes',
  severity: 'warning',
  sentence: 'A waypoint hangs in the air above the floor it belongs to.',
  each: 'waypoints',
  run(look, id) {
    const waypoint = look.level.thing('waypoints', id)!
    const [x, y, z] = waypoint.at
    const { floor, above } = restingOn(look.ground.floors(x, y), z - waypoint.liftM)
    if (above <= SETTLED_M) return []
    const what = look.ground.surface(floor.surface)?.name ?? 'the ground'
    return [
      {
        subjects: [id],
        at: waypoint.at,
        message: `${waypointLabel(look, id, waypoint)} hangs ${metres(above)} above ${what}.`,
        fix: {
          label: 'Settle it on the floor',
          edit: 'movePlaces',
          args: { places: { [id]: [x, y, floor.z + waypoint.liftM] }, word: 'Settle' },
        },
      },
    ]
  },
}
