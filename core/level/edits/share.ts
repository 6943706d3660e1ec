import { defineEdit } from '../edit'
import type { Level } from '../schema'
import { dropUnused } from './shape'
import { roundPlace, type Place } from './waypoint'

/**
 * Give every stop at a shared waypoint but the first a waypoint of its own, at the same place. A network's links
 * go with its stop; links that belong to no network stay.
 * @param newIds ids for the waypoints to make, by stop; stops that are not named stay together at the first
 */
export const separateWaypoint = defineEdit<{ waypointId: string; newIds: Readonly<Record<string, string>> }>(
  () => 'Separate a shared waypoint',
  (draft, { waypointId, newIds }) => {
    const waypoint = draft.waypoints[waypointId]
    if (!waypoint) return
    for (const route of Object.values(draft.routes)) {
      for (const [stopId, stop] of Object.entries(route.stops)) {
        const own = newIds[stopId]
        if (stop.waypointId !== waypointId || !own) continue
        draft.waypoints[own] = { ...waypoint, at: [...waypoint.at], tags: [...waypoint.tags] }
        stop.waypointId = own
        for (const linkId of route.linkIds) {
          const link = draft.links[linkId]
          if (link.fromId === waypointId) link.fromId = own
          if (link.toId === waypointId) link.toId = own
        }
      }
    }
    dropUnused(draft as Level, [waypointId])
  },
)

/**
 * Make one waypoint of several: stops and links go over to the first, which moves to where it is told. A link between
 * two of them goes, and of links that come to join the same two waypoints one stays; a stop that comes to follow
 * another at the same waypoint, with nothing said about it, goes too.
 */
export const mergeWaypoints = defineEdit<{ waypointIds: readonly string[]; at?: readonly number[] }>(
  (_level, { waypointIds }) => `Merge ${waypointIds.length} waypoints`,
  (draft, { waypointIds, at }) => {
    const [into, ...others] = waypointIds.filter((id) => draft.waypoints[id])
    if (others.length === 0) return
    const gone = new Set(others)
    const target = draft.waypoints[into]
    if (at) target.at = roundPlace(at)
    for (const id of others) {
      target.name ||= draft.waypoints[id].name
      target.markerId ??= draft.waypoints[id].markerId
    }
    for (const route of Object.values(draft.routes)) {
      if (!Object.values(route.stops).some((s) => gone.has(s.waypointId))) continue
      for (const stop of Object.values(route.stops)) if (gone.has(stop.waypointId)) stop.waypointId = into
      const nodes = new Set<string>()
      route.order = route.order.filter((stopId, i, order) => {
        const stop = route.stops[stopId]
        if (stop.waypointId !== into) return true
        const before = i > 0 ? route.stops[order[i - 1]] : undefined
        const double = route.kind === 'network' ? nodes.has(into) : before?.waypointId === into
        nodes.add(into)
        if (double && stop.pause.maxS === 0 && stop.action === '') {
          // Deleted after the pass, so that the neighbours can still be read.
          return false
        }
        return true
      })
      const kept = new Set(route.order)
      for (const stopId of Object.keys(route.stops)) if (!kept.has(stopId)) delete route.stops[stopId]
    }
    const seen = new Set<string>()
    const lost = new Set<string>()
    for (const [id, link] of Object.entries(draft.links)) {
      const touched = gone.has(link.fromId) || gone.has(link.toId)
      if (gone.has(link.fromId)) link.fromId = into
      if (gone.has(link.toId)) link.toId = into
      const key = pairKey(link)
      if (link.fromId === link.toId || ((touched || link.fromId === into || link.toId === into) && seen.has(key)))
        lost.add(id)
      seen.add(key)
    }
    removeLinks(draft as Level, lost)
    for (const id of others) delete draft.waypoints[id]
  },
)

/** The same for two links that join the same waypoints the same way. */
const pairKey = (link: { fromId: string; toId: string; twoWay: boolean }) =>
  link.twoWay ? [link.fromId, link.toId].sort().join(' ') : `${link.fromId} > ${link.toId}`

export function removeLinks(draft: Level, ids: ReadonlySet<string>): void {
  if (ids.size === 0) return
  for (const id of ids) delete draft.links[id]
  for (const route of Object.values(draft.routes)) {
    if (route.linkIds.some((l) => ids.has(l))) route.linkIds = route.linkIds.filter((l) => !ids.has(l))
  }
}

/** Move waypoints by id and turn what is said of directions at stops along with them. */
export const reshape = defineEdit<{
  places: Readonly<Record<string, readonly number[]>>
  /** New facings and look-arounds of stops, by route and stop. */
  stops?: Readonly<
    Record<string, Readonly<Record<string, { facingRad?: number; look?: { fromRad: number; toRad: number } }>>>
  >
  word: string
}>(
  (_level, { places, word }) => `${word} ${Object.keys(places).length} waypoints`,
  (draft, { places, stops = {} }) => {
    for (const [id, at] of Object.entries(places)) {
      if (draft.waypoints[id]) draft.waypoints[id].at = roundPlace(at) as Place
    }
    for (const [routeId, set] of Object.entries(stops)) {
      for (const [stopId, values] of Object.entries(set)) {
        const stop = draft.routes[routeId]?.stops[stopId]
        if (stop) Object.assign(stop, values)
      }
    }
  },
)
