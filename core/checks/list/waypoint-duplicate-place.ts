import type { Check, Look } from '../check'
import { waypointLabel } from '../words'

/**
 * Is it only the beginning or end of lanes, or laid by a road? Ends are joined by links, and it is told by itself where
 * they are not; both ways of a track lie where it lays them.
 */
const isOfALane = (look: Look, waypointId: string): boolean => {
  const users = look.graph.users(waypointId)
  return (
    users.length > 0 &&
    users.every(({ routeId, index }) => {
      const lane = look.lanes.lane(routeId)
      return lane && !lane.closed && (lane.roadId !== undefined || index === 0 || index === lane.route.order.length - 1)
    })
  )
}

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
    if (all.every((w) => isOfALane(look, w))) return []
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
