import { defineEdit } from '../edit'
import type { Link } from '../kinds'
import type { Level } from '../schema'
import { removeLinks } from './share'
import { addNodes, dropUnused } from './shape'
import { roundPlace } from './waypoint'

/** Put nodes into a network, at places or at waypoints there are. */
export const addNetworkNodes = defineEdit<{
  routeId: string
  nodes: readonly { stopId: string; waypointId: string; at?: readonly number[]; markerId?: string }[]
}>(
  (level, { routeId, nodes }) =>
    `Add ${nodes.length === 1 ? 'a node' : `${nodes.length} nodes`} to ${level.routes[routeId]?.name ?? 'a network'}`,
  (draft, { routeId, nodes }) => {
    for (const { waypointId, at, markerId } of nodes) {
      if (!at || draft.waypoints[waypointId]) continue
      const marker = markerId && draft.markers[markerId] ? markerId : null
      draft.waypoints[waypointId] = { name: '', at: roundPlace(at), liftM: 0, markerId: marker, tags: [] }
    }
    addNodes(
      draft as Level,
      routeId,
      nodes.map((n) => n.waypointId),
      nodes.map((n) => n.stopId),
    )
  },
)

/**
 * Join waypoints by links. A link from a waypoint to itself, to one that does not exist, or where there is one already
 * is passed over; the way back where there is a one-way link makes that link two-way.
 * @param routeId the network the links belong to; their ends become its nodes
 */
export const addLinks = defineEdit<{
  links: readonly { id: string; fromId: string; toId: string; twoWay?: boolean; share?: number }[]
  routeId?: string
  /** Ids for stops of nodes that are new to the network, by waypoint. */
  stopIds?: Readonly<Record<string, string>>
}>(
  (_level, { links }) => (links.length === 1 ? 'Add a link' : `Add ${links.length} links`),
  (draft, { links, routeId, stopIds = {} }) => {
    const known = new Map<string, string>()
    for (const [id, link] of Object.entries(draft.links)) known.set(`${link.fromId} ${link.toId}`, id)
    const route = routeId ? draft.routes[routeId] : undefined
    for (const { id, fromId, toId, twoWay = true, share = 1 } of links) {
      if (fromId === toId || !draft.waypoints[fromId] || !draft.waypoints[toId]) continue
      const same = known.get(`${fromId} ${toId}`)
      const back = known.get(`${toId} ${fromId}`)
      if (same ?? back) {
        const link = draft.links[(same ?? back)!]
        if (twoWay || !same) link.twoWay = true
        continue
      }
      const link: Link = { fromId, toId, twoWay, costFactor: 1, share, tags: [] }
      draft.links[id] = link
      known.set(`${fromId} ${toId}`, id)
      route?.linkIds.push(id)
    }
    if (!route) return
    const ends = [...new Set(links.flatMap((l) => [l.fromId, l.toId]))].filter((w) => stopIds[w])
    addNodes(
      draft as Level,
      routeId!,
      ends,
      ends.map((w) => stopIds[w]),
    )
  },
)

/** Take links away; waypoints that nothing uses any more go too. */
export const cutLinks = defineEdit<{ ids: readonly string[]; word?: string }>(
  (_level, { ids, word = 'Delete' }) => `${word} ${ids.length === 1 ? 'a link' : `${ids.length} links`}`,
  (draft, { ids }) => {
    const ends = ids.flatMap((id) => (draft.links[id] ? [draft.links[id].fromId, draft.links[id].toId] : []))
    removeLinks(draft as Level, new Set(ids))
    dropUnused(draft as Level, ends)
  },
)

/** Let a link lead the other way. */
export const turnLink = defineEdit<{ id: string }>(
  () => 'Turn a link round',
  (draft, { id }) => {
    const link = draft.links[id]
    if (link) [link.fromId, link.toId] = [link.toId, link.fromId]
  },
)

/** Take a node out of a network and link its two neighbours in its stead. With more or fewer neighbours nothing happens. */
export const dropNode = defineEdit<{ waypointId: string; routeId: string; linkId: string }>(
  () => 'Drop a node',
  (draft, { waypointId, routeId, linkId }) => {
    const route = draft.routes[routeId]
    const old = Object.entries(draft.links).filter(([, l]) => l.fromId === waypointId || l.toId === waypointId)
    const ends = [...new Set(old.map(([, l]) => (l.fromId === waypointId ? l.toId : l.fromId)))]
    if (!route || ends.length !== 2) return
    removeLinks(draft as Level, new Set(old.map(([id]) => id)))
    const joined = Object.values(draft.links).some((l) => ends.includes(l.fromId) && ends.includes(l.toId))
    if (!joined) {
      draft.links[linkId] = { fromId: ends[0], toId: ends[1], twoWay: true, costFactor: 1, share: 1, tags: [] }
      route.linkIds.push(linkId)
    }
    const stopId = route.order.find((s) => route.stops[s].waypointId === waypointId)
    if (stopId) {
      delete route.stops[stopId]
      route.order = route.order.filter((s) => s !== stopId)
    }
    dropUnused(draft as Level, [waypointId])
  },
)
