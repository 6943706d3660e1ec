import { defineChanges, defineEdit } from '../edit'
import type { Link } from '../kinds'
import { addNodes, dropUnused, putWaypoint, removeLinks, takeStops } from './parts'

/** Put nodes into a network, at places or at waypoints there are. */
export const addNetworkNodes = defineChanges<{
  routeId: string
  nodes: readonly { stopId: string; waypointId: string; at?: readonly number[]; markerId?: string }[]
  /** Links, both ways, from new nodes to ones the network has. */
  links?: readonly { id: string; fromId: string; toId: string }[]
}>(
  (level, { routeId, nodes }) =>
    `Add ${nodes.length === 1 ? 'a node' : `${nodes.length} nodes`} to ${level.routes[routeId]?.name ?? 'a network'}`,
  (changes, { routeId, nodes, links = [] }, base) => {
    for (const { waypointId, at, markerId } of nodes)
      if (at && !base.waypoints[waypointId]) putWaypoint(changes, waypointId, at, markerId)
    addNodes(
      changes,
      routeId,
      nodes.map((n) => n.waypointId),
      nodes.map((n) => n.stopId),
    )
    let count = base.routes[routeId]?.linkIds.length ?? 0
    for (const { id, fromId, toId } of links) {
      if (!changes.level.waypoints[fromId] || !base.waypoints[toId] || base.links[id]) continue
      const link: Link = { fromId, toId, twoWay: true, costFactor: 1, share: 1, turnM: null, tags: [] }
      changes.set(['links', id], link)
      changes.insert(['routes', routeId, 'linkIds'], count++, id)
    }
  },
)

/**
 * Join waypoints by links. A link from a waypoint to itself, to one that does not exist, or where there is one already
 * is passed over; the way back where there is a one-way link makes that link two-way.
 * @param routeId the network the links belong to; their ends become its nodes
 */
export const addLinks = defineChanges<{
  links: readonly {
    id: string
    fromId: string
    toId: string
    twoWay?: boolean
    share?: number
    turnM?: number | null
  }[]
  routeId?: string
  /** Ids for stops of nodes that are new to the network, by waypoint. */
  stopIds?: Readonly<Record<string, string>>
}>(
  (_level, { links }) => (links.length === 1 ? 'Add a link' : `Add ${links.length} links`),
  (changes, { links, routeId, stopIds = {} }, base) => {
    const known = new Map<string, string>()
    const ends = new Set(links.flatMap((l) => [l.fromId, l.toId]))
    for (const id in base.links) {
      const { fromId, toId } = base.links[id]
      if (ends.has(fromId) && ends.has(toId)) known.set(`${fromId} ${toId}`, id)
    }
    const route = routeId ? base.routes[routeId] : undefined
    let count = route?.linkIds.length ?? 0
    for (const { id, fromId, toId, twoWay = true, share = 1, turnM = null } of links) {
      if (fromId === toId || !base.waypoints[fromId] || !base.waypoints[toId]) continue
      const same = known.get(`${fromId} ${toId}`)
      const back = known.get(`${toId} ${fromId}`)
      if (same ?? back) {
        if (twoWay || !same) changes.set(['links', (same ?? back)!, 'twoWay'], true)
        continue
      }
      const link: Link = { fromId, toId, twoWay, costFactor: 1, share, turnM, tags: [] }
      changes.set(['links', id], link)
      known.set(`${fromId} ${toId}`, id)
      if (route) changes.insert(['routes', routeId!, 'linkIds'], count++, id)
    }
    if (!route) return
    const nodes = [...ends].filter((w) => stopIds[w])
    addNodes(
      changes,
      routeId!,
      nodes,
      nodes.map((w) => stopIds[w]),
    )
  },
)

/** Take links away; waypoints that nothing uses any more go too. */
export const cutLinks = defineChanges<{ ids: readonly string[]; word?: string }>(
  (_level, { ids, word = 'Delete' }) => `${word} ${ids.length === 1 ? 'a link' : `${ids.length} links`}`,
  (changes, { ids }, base) => {
    const ends = ids.flatMap((id) => (base.links[id] ? [base.links[id].fromId, base.links[id].toId] : []))
    removeLinks(changes, new Set(ids))
    dropUnused(changes, ends)
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
export const dropNode = defineChanges<{ waypointId: string; routeId: string; linkId: string }>(
  () => 'Drop a node',
  (changes, { waypointId, routeId, linkId }, base) => {
    const route = base.routes[routeId]
    const old = Object.entries(base.links).filter(([, l]) => l.fromId === waypointId || l.toId === waypointId)
    const ends = [...new Set(old.map(([, l]) => (l.fromId === waypointId ? l.toId : l.fromId)))]
    if (!route || ends.length !== 2) return
    removeLinks(changes, new Set(old.map(([id]) => id)))
    const joined = Object.values(changes.level.links).some((l) => ends.includes(l.fromId) && ends.includes(l.toId))
    if (!joined) {
      const link: Link = {
        fromId: ends[0],
        toId: ends[1],
        twoWay: true,
        costFactor: 1,
        share: 1,
        turnM: null,
        tags: [],
      }
      changes.set(['links', linkId], link)
      changes.insert(['routes', routeId, 'linkIds'], changes.level.routes[routeId].linkIds.length, linkId)
    }
    const stopId = route.order.find((s) => route.stops[s].waypointId === waypointId)
    if (stopId) takeStops(changes, routeId, new Set([stopId]))
    dropUnused(changes, [waypointId])
  },
)
