import { whyNotHere } from '@tidytrail/core/reach'
import type { Check } from '../check'
import { movesToReach, MOST_MOVED_M } from '../moving'
import { islandsOfStops, judgedBy, travellers } from '../travellers'
import { waypointLabel } from '../words'

export const waypointOffReach: Check = {
  id: 'waypoint.off-reach',
  stage: 'routes',
  severity: 'blocker',
  sentence: 'A stop lies where the agents that are to visit it cannot stand.',
  each: 'waypoints',
  run(look, id) {
    const waypoint = look.level.thing('waypoints', id)!
    const users = look.graph.users(id)
    if (users.length === 0) return []
    const routes = [...new Set(users.map((u) => u.routeId))]
    for (const profileId of new Set(routes.flatMap((r) => travellers(look, r)))) {
      const map = look.reach.map(profileId, waypoint.at, MOST_MOVED_M)
      if (!map || map.reachedAt(...waypoint.at)) continue
      const why = whyNotHere(map, waypoint.at) ?? 'no floor to stand on'
      const label = waypointLabel(look, id, waypoint)
      const who = look.level.thing('profiles', profileId)!.name
      return [
        {
          subjects: [id],
          at: waypoint.at,
          message: `${who} cannot stand at ${label.charAt(0).toLowerCase()}${label.slice(1)}: ${why}.${routes.map((r) => judgedBy(look, r)).find(Boolean) ?? ''}`,
          ...movesToReach(map, id, 'the stop', waypoint.at, islandsOfStops(look, routes, profileId)),
        },
      ]
    }
    return []
  },
}
