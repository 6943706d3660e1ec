import type { Check } from '../check'
import { waypointLabel } from '../words'

export const waypointDuplicatePlace: Check = {
  id: 'waypoint.duplicate-place',
  stage: 'routes',
  severity: 'note',
  sentence: 'Two waypoints lie at the same place and are not one, so routes that seem to meet do not.',
  each: 'waypoints',
  run(look, id) {
    const twins = look.graph.twins(id)
    // One finding for all at a place: that of the first.
    if (twins.length === 0 || twins[0] < id) return []
    const waypoint = look.level.thing('waypoints', id)!
    const all = [id, ...twins]
    return [
      {
        subjects: all,
        at: waypoint.at,
        message: `${waypointLabel(look, id, waypoint)} lies at the same place as ${twins.length === 1 ? 'another waypoint' : `${twins.length} others`}; they are not joined.`,
        fix: {
          label: `Merge the ${all.length} waypoints into one`,
          edit: 'mergeWaypoints',
          args: { waypointIds: all },
        },
      },
    ]
  },
}
