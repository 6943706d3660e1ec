import type { Level } from '@tidytrail/core/level'
import { legsOf } from '@tidytrail/core/network'

/** How far apart routes that share a leg are drawn, pixels. */
export const APART_PX = 6

/**
 * How far to the left of its direction each leg is drawn, pixels, so that routes with a leg between the same two
 * waypoints lie beside one another. Routes without such a leg are left out.
 */
export function besideOneAnother(routes: Level['routes']): ReadonlyMap<string, readonly number[]> {
  const sharing = new Map<string, { routeId: string; leg: number; ahead: boolean }[]>()
  for (const [routeId, route] of Object.entries(routes)) {
    if (route.hidden || route.kind === 'network') continue
    legsOf(route).forEach(({ from, to }, leg) => {
      const a = route.stops[route.order[from]].waypointId
      const b = route.stops[route.order[to]].waypointId
      const key = a < b ? `${a} ${b}` : `${b} ${a}`
      const use = { routeId, leg, ahead: a < b }
      const list = sharing.get(key)
      if (list) list.push(use)
      else sharing.set(key, [use])
    })
  }
  const shifts = new Map<string, number[]>()
  for (const list of sharing.values()) {
    if (list.length < 2) continue
    list.forEach(({ routeId, leg, ahead }, k) => {
      let own = shifts.get(routeId)
      if (!own) shifts.set(routeId, (own = legsOf(routes[routeId]).map(() => 0)))
      const px = (k - (list.length - 1) / 2) * APART_PX
      own[leg] = ahead ? px : -px
    })
  }
  return shifts
}
