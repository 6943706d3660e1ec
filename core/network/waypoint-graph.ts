import { distance2, type Point3 } from '@tidytrail/core/geometry'
import { admits, type Level, type Route } from '@tidytrail/core/level'
import { makeGraph, type Graph } from './graph'
import { legsOf } from './legs'

/** What an edge of the waypoint graph stands for. */
export type GraphEdge =
  | { readonly kind: 'link'; readonly id: string; readonly back: boolean }
  | { readonly kind: 'leg'; readonly routeId: string; readonly leg: number; readonly back: boolean }

export interface WaypointGraph {
  readonly graph: Graph
  /** The waypoint each node is, and the node of each waypoint. */
  readonly ids: readonly string[]
  readonly nodeOf: ReadonlyMap<string, number>
  /** By the number each edge was given with. */
  readonly edges: readonly GraphEdge[]
  /** Edges given with these numbers are one, travelled either way. */
  readonly same: (given: number) => number
}

export interface GraphOptions {
  /** Only what this profile may use. */
  readonly profileId?: string
  /** Only this network, or these routes; by default all. */
  readonly routeIds?: ReadonlySet<string>
  /**
   * What an edge costs, in any one unit; undefined where it cannot be travelled. By default its length over the map,
   * times a link's cost factor.
   */
  readonly cost?: (from: Point3, to: Point3, edge: GraphEdge) => number | undefined
}

/**
 * All waypoints with the links and legs between them: one graph, whatever kind of route they belong to. Legs lead the
 * way their route is travelled: both ways for there and back and for any order.
 */
export function waypointGraph(level: Level, { profileId, routeIds, cost }: GraphOptions = {}): WaypointGraph {
  const routes = Object.entries(level.routes).filter(
    ([id, r]) => (!routeIds || routeIds.has(id)) && (!profileId || admits(r, profileId)),
  )
  const linkIds = linksIn(level, routes, routeIds)
  const ids = routeIds
    ? [
        ...new Set([
          ...routes.flatMap(([, r]) => r.order.map((s) => r.stops[s].waypointId)),
          ...linkIds.flatMap((l) => [level.links[l].fromId, level.links[l].toId]),
        ]),
      ]
    : Object.keys(level.waypoints)
  ids.sort()
  const nodeOf = new Map(ids.map((id, n) => [id, n]))
  const xy = Float64Array.from(ids.flatMap((id) => level.waypoints[id].at.slice(0, 2)))
  const from: number[] = []
  const to: number[] = []
  const costs: number[] = []
  const edges: GraphEdge[] = []
  const twin: number[] = []
  const costOf =
    cost ??
    ((a: Point3, b: Point3, edge: GraphEdge) =>
      distance2(a, b) * (edge.kind === 'link' ? level.links[edge.id].costFactor : 1))
  const add = (a: string, b: string, edge: GraphEdge, other: number | undefined): number | undefined => {
    const c = costOf(level.waypoints[a].at, level.waypoints[b].at, edge)
    if (c === undefined) return undefined
    const e = edges.length
    from.push(nodeOf.get(a)!)
    to.push(nodeOf.get(b)!)
    costs.push(c)
    edges.push(edge)
    twin.push(other ?? e)
    return e
  }
  for (const id of linkIds) {
    const { fromId, toId, twoWay } = level.links[id]
    const there = add(fromId, toId, { kind: 'link', id, back: false }, undefined)
    if (twoWay) add(toId, fromId, { kind: 'link', id, back: true }, there)
  }
  for (const [routeId, route] of routes) {
    if (route.kind === 'network') continue
    const bothWays = route.travel === 'there-and-back' || route.travel === 'any-order'
    legsOf(route).forEach((leg, i) => {
      const a = route.stops[route.order[leg.from]].waypointId
      const b = route.stops[route.order[leg.to]].waypointId
      if (a === b) return
      const there = add(a, b, { kind: 'leg', routeId, leg: i, back: false }, undefined)
      if (bothWays) add(b, a, { kind: 'leg', routeId, leg: i, back: true }, there)
    })
  }
  const graph = makeGraph({ nodeCount: ids.length, from, to, cost: costs, xy })
  return { graph, ids, nodeOf, edges, same: (given) => twin[given] }
}

/** All links, or those of the networks asked for; and of others only what nobody is kept out of. */
function linksIn(level: Level, routes: readonly [string, Route][], only: ReadonlySet<string> | undefined): string[] {
  if (only) return routes.flatMap(([, r]) => r.linkIds)
  const shown = new Set(routes.map(([id]) => id))
  const barred = new Set(Object.entries(level.routes).flatMap(([id, r]) => (shown.has(id) ? [] : r.linkIds)))
  const free = new Set(routes.flatMap(([, r]) => r.linkIds))
  return Object.keys(level.links).filter((l) => !barred.has(l) || free.has(l))
}
