import type { Check } from '../check'
import { waypointLabel } from '../words'

export const waypointOrphan: Check = {
  id: 'waypoint.orphan',
  stage: 'routes',
  severity: 'note',
  sentence: 'A waypoint belongs to no route and no link, so nobody ever goes there.',
  each: 'waypoints',
  run(look, id) {
    if (look.graph.users(id).length > 0 || look.graph.linksAt(id).length > 0) return []
    const waypoint = look.level.thing('waypoints', id)!
    return [
      {
        subjects: [id],
        at: waypoint.at,
        message: `${waypointLabel(look, id, waypoint)} belongs to no route and no link.`,
        fix: { label: 'Delete the waypoint', edit: 'removeThings', args: { ids: [id] } },
      },
    ]
  },
}
