import { mergeWaypoints, separateWaypoint, swapStops } from '@tidytrail/core/level'
import { computed } from 'vue'
import { randomId } from '../../stores/random-id'
import { useRouteShapes } from './shapes'
import type { Stops } from './use-stops'

/** What can be done to chosen stops beside setting their fields. */
export function useStopItems({ levels, sheet, held, single, routeIds, waypointIds }: Stops) {
  const shapes = useRouteShapes()

  function connect(fromId: string, toId?: string): void {
    sheet.connecting = { fromId, toId }
    sheet.toolId = 'connect'
  }

  return computed(() => {
    const one = single.value
    const ids = held.value.map((h) => h.id)
    const shared =
      one !== undefined &&
      Object.values(levels.doc.routes).some((r) =>
        r.order.some((s) => s !== one.id && r.stops[s].waypointId === one.stop.waypointId),
      )
    const network = held.value.every((h) => h.route.kind === 'network')
    const oneRoute = routeIds.value.length === 1 && !network
    return [
      ...(one && !network
        ? [
            { name: 'Split the route here', run: () => shapes.split(one.routeId, one.id) },
            {
              name: 'Let the round begin here',
              run: () => shapes.startAt(one.routeId, one.id),
              off: one.route.travel !== 'round' || one.index === 0,
            },
          ]
        : []),
      ...(oneRoute && ids.length > 1
        ? [{ name: 'Take them out as a new route', run: () => shapes.extract(routeIds.value[0], ids) }]
        : []),
      ...(oneRoute && ids.length === 2
        ? [
            {
              name: 'Swap the two',
              run: () => levels.perform(swapStops, { routeId: routeIds.value[0], stopIds: [ids[0], ids[1]] }),
            },
          ]
        : []),
      ...(waypointIds.value.length > 1
        ? [
            {
              name: 'Merge into one waypoint',
              run: () => levels.perform(mergeWaypoints, { waypointIds: waypointIds.value }),
            },
          ]
        : []),
      ...(one
        ? [
            {
              name: 'Give it a waypoint of its own',
              run: () =>
                levels.perform(separateWaypoint, {
                  waypointId: one.stop.waypointId,
                  newIds: { [one.id]: randomId('waypoints') },
                }),
              off: !shared,
            },
            { name: 'Show what it connects to', run: () => connect(one.stop.waypointId) },
          ]
        : []),
      ...(waypointIds.value.length === 2
        ? [{ name: 'Compare the ways between', run: () => connect(waypointIds.value[0], waypointIds.value[1]) }]
        : []),
      { name: 'A route along the found way …', run: () => void (sheet.laying = 'way'), off: ids.length < 2 },
    ]
  })
}
