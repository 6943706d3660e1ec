import { Measured } from '@tidytrail/core/insight'
import type { Level } from '@tidytrail/core/level'

/** The place so many metres along the straight legs of a route; undefined where it has none. */
export function placeOnRoute(level: Level, routeId: string, m: number): readonly [number, number] | undefined {
  const route = level.routes[routeId]
  if (!route || route.order.length < 2) return undefined
  const points = route.order.map((s) => level.waypoints[route.stops[s].waypointId].at)
  if (route.travel === 'round') points.push(points[0])
  const [x, y] = new Measured(points).at(m)
  return [x, y]
}
