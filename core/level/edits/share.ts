import { defineChanges, type Changes } from '../edit'
import type { Route } from '../kinds'
import { dropUnused, removeLinks, takeStops } from './parts'
import { roundPlace } from '../plain'

/**
 * Give every stop at a shared waypoint but the first a waypoint of its own, at the same place. A network's links
 * go with its stop; links that belong to no network stay.
 * @param newIds ids for the waypoints to make, by stop; stops that are not named stay together at the first
 */
export const separateWaypoint = defineChanges<{ waypointId: string; newIds: Readonly<Record<string, string>> }>(
  () => 'Separate a shared waypoint',
  (changes, { waypointId, newIds }, base) => {
    const waypoint = base.waypoints[waypointId]
    if (!waypoint) return
    for (const [routeId, route] of Object.entries(base.routes)) {
      for (const [stopId, own] of Object.entries(newIds)) {
        if (route.stops[stopId]?.waypointId !== waypointId) continue
        changes.set(['waypoints', own], { ...waypoint, at: [...waypoint.at], tags: [...waypoint.tags] })
        changes.set(['routes', routeId, 'stops', stopId, 'waypointId'], own)
        for (const linkId of route.linkIds) {
          const link = changes.level.links[linkId]
          for (const end of ['fromId', 'toId'] as const)
            if (link[end] === waypointId) changes.set(['links', linkId, end], own)
        }
      }
    }
    dropUnused(changes, [waypointId])
  },
)

/**
 * Make one waypoint of several: stops and links go over to the first, which moves to where it is told. A link between
 * two of them goes, and of links that come to join the same two waypoints one stays; a stop that comes to follow
 * another at the same waypoint, with nothing said about it, goes too.
 */
export const mergeWaypoints = defineChanges<{ waypointIds: readonly string[]; at?: readonly number[] }>(
  (_level, { waypointIds }) => `Merge ${waypointIds.length} waypoints`,
  (changes, { waypointIds, at }, base) => {
    const [into, ...others] = waypointIds.filter((id) => base.waypoints[id])
    if (others.length === 0) return
    const gone = new Set(others)
    const all = [into, ...others].map((id) => base.waypoints[id])
    const name = all.find((w) => w.name)?.name ?? ''
    const markerId = all.find((w) => w.markerId !== null)?.markerId ?? null
    changes.assign(['waypoints', into], { name, markerId, ...(at ? { at: roundPlace(at) } : {}) })
    for (const [routeId, route] of Object.entries(base.routes)) mergeStops(changes, routeId, route, into, gone)
    mergeLinks(changes, into, gone)
    for (const id of others) changes.remove(['waypoints', id])
  },
)

/** Lets the stops of a route go over to one waypoint, and takes out those that then say nothing. */
function mergeStops(changes: Changes, routeId: string, route: Route, into: string, gone: ReadonlySet<string>): void {
  const moved = route.order.filter((s) => gone.has(route.stops[s].waypointId))
  if (moved.length === 0) return
  for (const stopId of moved) changes.set(['routes', routeId, 'stops', stopId, 'waypointId'], into)
  const { stops } = changes.level.routes[routeId]
  let met = false
  const doubles = route.order.filter((stopId, i) => {
    const stop = stops[stopId]
    if (stop.waypointId !== into) return false
    const double = route.kind === 'network' ? met : i > 0 && stops[route.order[i - 1]].waypointId === into
    met = true
    return double && stop.pause.maxS === 0 && stop.action === ''
  })
  takeStops(changes, routeId, new Set(doubles))
}

/** Lets links go over to one waypoint, and takes out those that then lead nowhere or where another does. */
function mergeLinks(changes: Changes, into: string, gone: ReadonlySet<string>): void {
  const seen = new Set<string>()
  const lost = new Set<string>()
  const to = (id: string) => (gone.has(id) ? into : id)
  for (const [id, link] of Object.entries(changes.base.links)) {
    const { twoWay } = link
    const [fromId, toId] = [to(link.fromId), to(link.toId)]
    const key = pairKey({ fromId, toId, twoWay })
    if (fromId === toId || ((fromId === into || toId === into) && seen.has(key))) lost.add(id)
    else changes.assign(['links', id], { fromId, toId })
    seen.add(key)
  }
  removeLinks(changes, lost)
}

/** The same for two links that join the same waypoints the same way. */
const pairKey = (link: { fromId: string; toId: string; twoWay: boolean }) =>
  link.twoWay ? [link.fromId, link.toId].sort().join(' ') : `${link.fromId} > ${link.toId}`

/** Move waypoints by id and turn what is said of directions at stops along with them. */
export const reshape = defineChanges<{
  places: Readonly<Record<string, readonly number[]>>
  /** New facings and look-arounds of stops, by route and stop. */
  stops?: Readonly<
    Record<string, Readonly<Record<string, { facingRad?: number; look?: { fromRad: number; toRad: number } }>>>
  >
  word: string
}>(
  (_level, { places, word }) => `${word} ${Object.keys(places).length} waypoints`,
  (changes, { places, stops = {} }, base) => {
    for (const [id, at] of Object.entries(places))
      if (base.waypoints[id]) changes.set(['waypoints', id, 'at'], roundPlace(at))
    for (const [routeId, set] of Object.entries(stops))
      for (const [stopId, values] of Object.entries(set)) changes.assign(['routes', routeId, 'stops', stopId], values)
  },
)
