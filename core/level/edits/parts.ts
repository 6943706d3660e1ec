/** What several edits of routes and networks do in passing. */
import type { Changes } from '../edit'
import { keysOf } from '../keys'
import type { Waypoint } from '../kinds'
import { plainStop, roundPlace } from '../plain'

/** Takes waypoints away that no stop and no link uses. */
export function dropUnused(changes: Changes, ids: Iterable<string>): void {
  const free = new Set(ids)
  if (free.size === 0) return
  const { routes, links } = changes.level
  for (const routeId in routes) {
    const { stops } = routes[routeId]
    for (const stopId of keysOf(stops)) free.delete(stops[stopId].waypointId)
  }
  for (const linkId of keysOf(links)) {
    free.delete(links[linkId].fromId)
    free.delete(links[linkId].toId)
  }
  for (const id of free) changes.remove(['waypoints', id])
}

export function removeLinks(changes: Changes, ids: ReadonlySet<string>): void {
  if (ids.size === 0) return
  for (const id of ids) changes.remove(['links', id])
  for (const [routeId, route] of Object.entries(changes.level.routes)) {
    if (!route.linkIds.some((l) => ids.has(l))) continue
    const left = route.linkIds.filter((l) => !ids.has(l))
    changes.list(['routes', routeId, 'linkIds'], left)
  }
}

/** Takes stops out of a route; the waypoints stay. */
export function takeStops(changes: Changes, routeId: string, stopIds: ReadonlySet<string>): void {
  for (const stopId of stopIds) changes.remove(['routes', routeId, 'stops', stopId])
  const left = changes.level.routes[routeId].order.filter((s) => !stopIds.has(s))
  changes.list(['routes', routeId, 'order'], left)
}

/** Puts a waypoint at a place, for a marker if there is such a one, unless it is there already. */
export function putWaypoint(changes: Changes, id: string, at: readonly number[], markerId?: string): void {
  const marker = markerId && changes.level.markers[markerId] ? markerId : null
  const waypoint: Waypoint = { name: '', at: roundPlace(at), liftM: 0, markerId: marker, tags: [] }
  changes.set(['waypoints', id], waypoint)
}

/** Adds waypoints as nodes of a network, those that are not yet. @param stopIds ids to use, one for each waypoint */
export function addNodes(
  changes: Changes,
  routeId: string,
  waypointIds: readonly string[],
  stopIds: readonly string[],
): void {
  const route = changes.level.routes[routeId]
  if (!route) return
  const wanted = new Set(waypointIds)
  const known = new Set<string>()
  for (const stopId of keysOf(route.stops)) {
    const { waypointId } = route.stops[stopId]
    if (wanted.has(waypointId)) known.add(waypointId)
  }
  let end = route.order.length
  waypointIds.forEach((waypointId, i) => {
    if (known.has(waypointId) || !changes.level.waypoints[waypointId]) return
    known.add(waypointId)
    changes.set(['routes', routeId, 'stops', stopIds[i]], plainStop(waypointId))
    changes.insert(['routes', routeId, 'order'], end++, stopIds[i])
  })
}
