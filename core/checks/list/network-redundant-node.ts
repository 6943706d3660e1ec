import { distance2 } from '@tidytrail/core/geometry'
import type { Check } from '../check'
import { derivedId } from '../derived-id'
import { nodeLabel } from '../links'
import { saysSomething } from '../stops'
import { travellers } from '../travellers'

/** Without the node the way may be at most so much shorter: it adds nothing. */
const MOST_LONGER = 1.05

export const networkRedundantNode: Check = {
  id: 'network.redundant-node',
  stage: 'routes',
  severity: 'note',
  sentence: 'A node stands on the straight way between its only two neighbours, who see each other.',
  each: 'waypoints',
  run(look, id) {
    const at = look.graph.linksAt(id)
    if (at.length !== 2) return []
    const users = look.graph.users(id)
    if (users.length !== 1) return []
    const { routeId, index } = users[0]
    const route = look.level.thing('routes', routeId)!
    if (route.kind !== 'network' || saysSomething(route.stops[route.order[index]])) return []
    const waypoint = look.level.thing('waypoints', id)!
    if (waypoint.markerId || waypoint.name) return []
    const links = at.map((l) => look.level.thing('links', l)!)
    if (links.some((l) => !l.twoWay || l.costFactor !== 1)) return []
    const [a, b] = links.map((l) => (l.fromId === id ? l.toId : l.fromId))
    if (a === b) return []
    const [pa, pb] = [look.level.thing('waypoints', a)!.at, look.level.thing('waypoints', b)!.at]
    const through = distance2(pa, waypoint.at) + distance2(waypoint.at, pb)
    if (through > distance2(pa, pb) * MOST_LONGER) return []
    for (const profileId of travellers(look, routeId)) {
      const path = look.reach.path(profileId, pa, pb, 'drawn')
      if (!path?.found || path.uses.length > 0) return []
    }
    const label = nodeLabel(look, id)
    return [
      {
        subjects: [id, routeId],
        at: waypoint.at,
        message: `${label.charAt(0).toUpperCase()}${label.slice(1)} adds nothing: its two neighbours see each other past it.`,
        fix: {
          label: 'Drop the node and link its neighbours',
          edit: 'dropNode',
          args: { waypointId: id, routeId, linkId: derivedId('ln', a, b) },
        },
      },
    ]
  },
}
