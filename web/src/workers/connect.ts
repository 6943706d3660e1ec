import type { Point3 } from '@tidytrail/core/geometry'
import type { Level } from '@tidytrail/core/level'
import {
  articulationPoints,
  legsOf,
  legPath,
  weaklyConnected,
  ShortestPaths,
  dijkstra,
  stronglyConnected,
  timeField,
  timeOverCovers,
  waypointGraph,
  type GraphEdge,
  type LegPlanner,
  type TimedStretch,
} from '@tidytrail/core/network'
import type { PathAnswer } from '@tidytrail/core/reach'
import type { Connection } from './surveyor.protocol'

/** Graphs of more nodes than this get landmarks before they are searched. */
const PREPARE_OVER = 20_000

/** What can be reached from a waypoint, and the way to another, over the graph and over the reach map. */
export function connect(
  level: Level,
  planner: LegPlanner,
  profileId: string,
  fromId: string,
  toId: string | undefined,
): Connection | undefined {
  const profile = level.profiles[profileId]
  const speedMps = profile.gaits[profile.gait]
  const wayOf = (edge: GraphEdge): PathAnswer => {
    if (edge.kind === 'link') {
      const { fromId: a, toId: b } = level.links[edge.id]
      const [p, q] = [level.waypoints[a].at, level.waypoints[b].at]
      return edge.back ? planner.path(q, p, 'drawn') : planner.path(p, q, 'drawn')
    }
    const route = level.routes[edge.routeId]
    const leg = legsOf(route)[edge.leg]
    return edge.back
      ? legPath(planner, route, level.waypoints, leg.to, leg.from)
      : legPath(planner, route, level.waypoints, leg.from, leg.to)
  }
  const cost = (_a: Point3, _b: Point3, edge: GraphEdge): number | undefined => {
    const path = wayOf(edge)
    if (!path.found) return undefined
    const factor = edge.kind === 'link' ? level.links[edge.id].costFactor : 1
    const limit = edge.kind === 'leg' ? (level.routes[edge.routeId].speedLimitMps ?? Infinity) : Infinity
    return timeOverCovers(path, level.covers, Math.min(speedMps, limit)) * factor
  }
  const net = waypointGraph(level, { profileId, cost })
  const start = net.nodeOf.get(fromId)
  if (start === undefined) return undefined
  const { graph, ids } = net
  const from = dijkstra(graph, [start])
  const strong = stronglyConnected(graph)
  const loose = weaklyConnected(graph)
  const cuts = articulationPoints(graph, net.same)
  const into = new Uint32Array(graph.nodeCount)
  for (let e = 0; e < graph.edgeCount; e++) into[graph.to[e]]++
  const stretches: TimedStretch[] = []
  for (let n = 0; n < graph.nodeCount; n++) {
    if (from.cost[n] === Infinity) continue
    for (let e = graph.first[n]; e < graph.first[n + 1]; e++) {
      const path = wayOf(net.edges[graph.given[e]])
      if (path.found) stretches.push({ line: path.line, fromS: from.cost[n], toS: from.cost[n] + graph.cost[e] })
    }
  }
  const end = toId === undefined ? undefined : net.nodeOf.get(toId)
  const finder = end === undefined ? undefined : new ShortestPaths(graph)
  if (graph.nodeCount > PREPARE_OVER) finder?.prepare(4)
  const path = end === undefined ? undefined : finder!.find(start, end)
  const overGraph =
    path &&
    (() => {
      const answers = path.edges.map((e) => wayOf(net.edges[e]))
      return {
        ids: path.nodes.map((n) => ids[n]),
        lines: answers.flatMap((w) => (w.found ? [w.line] : [])),
        metres: answers.reduce((sum, w) => sum + (w.found ? w.lengthM : 0), 0),
        seconds: path.cost,
      }
    })()
  const straight =
    toId && level.waypoints[toId] ? planner.path(level.waypoints[fromId].at, level.waypoints[toId].at) : undefined
  const used = new Set<number>()
  for (let n = 0; n < graph.nodeCount; n++) if (into[n] > 0 || graph.first[n + 1] > graph.first[n]) used.add(n)
  return {
    fromId,
    toId,
    seconds: Object.fromEntries(ids.flatMap((id, n) => (from.cost[n] < Infinity ? [[id, from.cost[n]]] : []))),
    field: timeField(stretches, speedMps),
    total: used.size,
    parts: strong.sizes.filter((s) => s > 1).length,
    strongPart: Object.fromEntries([...used].map((n) => [ids[n], strong.of[n]])),
    weaklyConnected: new Set([...used].map((n) => loose.of[n])).size,
    deadEnds: [...used].filter((n) => into[n] > 0 && graph.first[n + 1] === graph.first[n]).map((n) => ids[n]),
    cutNodes: cuts.nodes.map((n) => ids[n]),
    bridges: cuts.bridges.map((e) => net.edges[e]),
    overGraph,
    overReach: straight?.found
      ? { line: straight.line, metres: straight.lengthM, seconds: timeOverCovers(straight, level.covers, speedMps) }
      : undefined,
  }
}
