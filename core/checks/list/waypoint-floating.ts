import { bodyOf } from '@tidytrail/core/level'
import type { Check } from '../check'
import { travellers } from '../travellers'
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
    // Those who fly have their stops in the air.
    const routes = [...new Set(look.graph.users(id).map((u) => u.routeId))]
    const who = routes.flatMap((r) => travellers(look, r)).map((p) => look.level.thing('profiles', p))
    if (who.length > 0 && who.every((p) => p && bodyOf(p.medium).flies)) return []
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
