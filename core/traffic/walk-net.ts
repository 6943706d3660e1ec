import FlatQueue from 'flatqueue'
import { boxesMeet, boxOf, distance2, type Box2, type Point3 } from '@tidytrail/core/geometry'
import type { Level, Route } from '@tidytrail/core/level'
import { meetingsOf, nearestOnLine, OVER_M, placeAt } from './measured-line'
import { laneOf, type NetLane } from './net'

/** A place of a lane that is walked along at which another way begins. Metres. */
export interface WalkNode {
  readonly laneId: string
  readonly m: number
  readonly at: Point3
}

/** A way from one place to another: along a lane, or over to another lane. */
interface WalkEdge {
  readonly to: number
  readonly lengthM: number
}

/** All lanes that are walked along, either way, and where one can go over from one to another. */
export interface WalkNet {
  readonly lanes: ReadonlyMap<string, NetLane>
  readonly nodes: readonly WalkNode[]
  /** By node, the ways on. */
  readonly ways: readonly (readonly WalkEdge[])[]
  /** By lane, its nodes in order. */
  readonly along: ReadonlyMap<string, readonly number[]>
}

type NetParts = Pick<Level, 'routes' | 'waypoints' | 'links'>

/** Is a route a lane one walks along? */
export const isWalked = (route: Route): boolean =>
  route.kind === 'lane' && route.use === 'walk' && route.order.length >= 2

/** An end of a lane this near to the line of another lies on it, metres, where neither is wider. */
const ON_M = 0.75
const ONE_PLACE_M = 0.05

const NO_WALKS: WalkNet = { lanes: new Map(), nodes: [], ways: [], along: new Map() }
let last: { parts: NetParts; net: WalkNet } | undefined

/**
 * The lanes of a level that are walked along. They are joined where they cross, where one ends on another (within half
 * the width of either), at shared waypoints, and by links.
 */
export function walkNet(level: NetParts): WalkNet {
  const { routes, waypoints, links } = level
  if (last?.parts.routes === routes && last.parts.waypoints === waypoints && last.parts.links === links) return last.net
  const net = make(level)
  last = { parts: { routes, waypoints, links }, net }
  return net
}

/** The lanes of a level that are walked along, without what joins them. */
export type WalkedLanes = Pick<WalkNet, 'lanes'>

let lastLanes: { parts: Pick<NetParts, 'routes' | 'waypoints'>; walked: WalkedLanes } | undefined

/** The lanes of a level that are walked along, by id: far sooner told than the net of them. The same object while all of them are. */
export function walkedLanes({ routes, waypoints }: Pick<NetParts, 'routes' | 'waypoints'>): WalkedLanes {
  if (lastLanes?.parts.routes === routes && lastLanes.parts.waypoints === waypoints) return lastLanes.walked
  const lanes = new Map<string, NetLane>()
  for (const id of Object.keys(routes).sort()) {
    if (!isWalked(routes[id])) continue
    const lane = laneOf(id, routes[id], waypoints)
    if (lane.line.places.length > 1) lanes.set(id, lane)
  }
  const before = lastLanes?.walked
  const same = before?.lanes.size === lanes.size && [...lanes].every(([id, lane]) => before.lanes.get(id) === lane)
  const walked = same ? before : { lanes }
  lastLanes = { parts: { routes, waypoints }, walked }
  return walked
}

function make({ routes, waypoints, links }: NetParts): WalkNet {
  const { lanes } = walkedLanes({ routes, waypoints })
  if (lanes.size === 0) return NO_WALKS
  const nodes: WalkNode[] = []
  const ways: WalkEdge[][] = []
  const on = new Map<string, number[]>()
  const nodeAt = (laneId: string, m: number): number => {
    let list = on.get(laneId)
    if (!list) on.set(laneId, (list = []))
    const known = list.find((k) => Math.abs(nodes[k].m - m) < ONE_PLACE_M)
    if (known !== undefined) return known
    nodes.push({ laneId, m, at: placeAt(lanes.get(laneId)!.line, m) })
    ways.push([])
    list.push(nodes.length - 1)
    return nodes.length - 1
  }
  const join = (a: number, b: number, back = true): void => {
    const lengthM = distance2(nodes[a].at, nodes[b].at)
    // From one place of a lane to another one goes along it.
    if (nodes[a].laneId === nodes[b].laneId || ways[a].some((w) => w.to === b)) return
    ways[a].push({ to: b, lengthM })
    if (back) ways[b].push({ to: a, lengthM })
  }
  const all = [...lanes.values()]
  const boxes = all.map(({ line, route }): Box2 => boxOf(line.places, Math.max(ON_M, route.widthM / 2)))
  all.forEach((a, i) => {
    all.forEach((b, j) => {
      if (i === j || !boxesMeet(boxes[i], boxes[j])) return
      const reachM = Math.max(ON_M, a.route.widthM / 2, b.route.widthM / 2)
      for (const m of a.closed ? [] : [0, a.line.lengthM]) {
        const end = placeAt(a.line, m)
        const near = nearestOnLine(b.line, end)
        if (near.farM <= reachM && Math.abs(near.at[2] - end[2]) < OVER_M) join(nodeAt(a.id, m), nodeAt(b.id, near.m))
      }
      if (i < j) for (const { aM, bM } of meetingsOf(a.line, b.line)) join(nodeAt(a.id, aM), nodeAt(b.id, bM))
    })
  })
  // Where they share a waypoint, or a link leads from one to another.
  const stops = new Map<string, { laneId: string; m: number }[]>()
  for (const { id, route, stopM } of all)
    route.order.forEach((stopId, k) => {
      const { waypointId } = route.stops[stopId]
      const list = stops.get(waypointId)
      const place = { laneId: id, m: stopM[k] }
      if (list) list.push(place)
      else stops.set(waypointId, [place])
    })
  for (const places of stops.values())
    for (const other of places.slice(1)) join(nodeAt(places[0].laneId, places[0].m), nodeAt(other.laneId, other.m))
  for (const id of Object.keys(links).sort()) {
    const { fromId, toId, twoWay } = links[id]
    const [from] = stops.get(fromId) ?? []
    const [to] = stops.get(toId) ?? []
    if (from && to) join(nodeAt(from.laneId, from.m), nodeAt(to.laneId, to.m), twoWay)
  }
  // Its ends are places of a lane like any other.
  for (const { id, line, closed } of all) {
    nodeAt(id, 0)
    if (!closed) nodeAt(id, line.lengthM)
  }
  for (const [id, list] of on) {
    const { closed, line } = lanes.get(id)!
    list.sort((a, b) => nodes[a].m - nodes[b].m)
    const along = (a: number, b: number, lengthM: number): void => {
      ways[a].push({ to: b, lengthM })
      ways[b].push({ to: a, lengthM })
    }
    for (let k = 1; k < list.length; k++) along(list[k - 1], list[k], nodes[list[k]].m - nodes[list[k - 1]].m)
    const end = list.at(-1)!
    if (closed && list.length > 1) along(end, list[0], line.lengthM - nodes[end].m)
  }
  return { lanes, nodes, ways, along: on }
}

/** A place on a lane, metres along it. */
export interface WalkPlace {
  readonly laneId: string
  readonly m: number
}

/** The place on the lanes nearest to a place; undefined where there is none. @param may may a lane be used? */
export function nearestWalk(net: WalkNet, at: Point3, may: (lane: NetLane) => boolean): WalkPlace | undefined {
  let best = Infinity
  let found: WalkPlace | undefined
  for (const lane of net.lanes.values()) {
    if (!may(lane)) continue
    const { m, farM, at: on } = nearestOnLine(lane.line, at)
    const far = Math.abs(on[2] - at[2]) < OVER_M ? farM : farM + 1000
    if (far < best) [best, found] = [far, { laneId: lane.id, m }]
  }
  return found
}

/** How far it is from a place to every node (Dijkstra 1959), metres, and by which node one comes to each; −1 from the place itself. */
export interface WalkTree {
  readonly from: WalkPlace
  readonly farM: Float64Array
  readonly by: Int32Array
}

/** The shortest ways from a place on the lanes. @param may may a lane be used? */
export function walksFrom(net: WalkNet, from: WalkPlace, may: (lane: NetLane) => boolean): WalkTree {
  const farM = new Float64Array(net.nodes.length).fill(Infinity)
  const by = new Int32Array(net.nodes.length).fill(-1)
  const queue = new FlatQueue<number>()
  for (const [node, m] of nodesBeside(net, from)) {
    if (m >= farM[node]) continue
    farM[node] = m
    queue.push(node, m)
  }
  const open = net.nodes.map(({ laneId }) => may(net.lanes.get(laneId)!))
  for (let far = queue.peekValue(), k = queue.pop(); k !== undefined; far = queue.peekValue(), k = queue.pop()) {
    if (far! > farM[k]) continue
    for (const { to, lengthM } of net.ways[k]) {
      if (!open[to] || farM[k] + lengthM >= farM[to]) continue
      farM[to] = farM[k] + lengthM
      by[to] = k
      queue.push(to, farM[to])
    }
  }
  return { from, farM, by }
}

/** The nodes of its lane next to a place either way, and how far each is, metres. */
function nodesBeside(net: WalkNet, { laneId, m }: WalkPlace): [node: number, m: number][] {
  const list = net.along.get(laneId) ?? []
  const { closed, line } = net.lanes.get(laneId)!
  const k = list.findIndex((n) => net.nodes[n].m >= m)
  const after = k < 0 ? (closed ? list[0] : undefined) : list[k]
  const before = k === 0 ? (closed ? list.at(-1) : undefined) : k < 0 ? list.at(-1) : list[k - 1]
  const far = (n: number, ahead: 1 | -1): number => {
    const d = ahead * (net.nodes[n].m - m)
    return d >= 0 ? d : d + line.lengthM
  }
  return [
    ...(after === undefined ? [] : [[after, far(after, 1)] as [number, number]]),
    ...(before === undefined ? [] : [[before, far(before, -1)] as [number, number]]),
  ]
}

/** Does a way lead onto a lane? */
export const leadsTo = (net: WalkNet, { from, farM }: WalkTree, laneId: string): boolean =>
  from.laneId === laneId || (net.along.get(laneId) ?? []).some((node) => farM[node] < Infinity)

/** A place of a way, and how wide the lane is there, metres. */
export interface WalkPoint {
  readonly at: Point3
  readonly widthM: number
}

/** The way from where a tree begins to another place, bend by bend; undefined where none leads there. */
export function walkAlong(
  net: WalkNet,
  tree: WalkTree,
  to: WalkPlace,
): { points: WalkPoint[]; lengthM: number } | undefined {
  const { from, farM, by } = tree
  const lane = net.lanes.get(to.laneId)
  if (!lane) return undefined
  let best = Infinity
  let end = -1
  for (const [node, m] of nodesBeside(net, to)) if (farM[node] + m < best) [best, end] = [farM[node] + m, node]
  const straight = from.laneId === to.laneId && !lane.closed ? Math.abs(to.m - from.m) : Infinity
  const points: WalkPoint[] = []
  if (straight <= best) {
    if (straight === Infinity) return undefined
    stretch(points, lane, from.m, to.m)
    return { points, lengthM: straight }
  }
  const nodes: number[] = []
  for (let k = end; k >= 0; k = by[k]) nodes.unshift(k)
  let on: WalkPlace = from
  for (const place of [...nodes.map((k) => net.nodes[k]), to]) {
    const of = net.lanes.get(place.laneId)!
    if (place.laneId === on.laneId) stretch(points, of, on.m, place.m)
    else put(points, { at: placeAt(of.line, place.m), widthM: of.route.widthM })
    on = place
  }
  return { points, lengthM: best }
}

function put(points: WalkPoint[], point: WalkPoint): void {
  const before = points.at(-1)
  if (!before || distance2(before.at, point.at) > ONE_PLACE_M) points.push(point)
  // Where a lane is left for another, there is as much room as on the narrower of both.
  else points[points.length - 1] = { at: before.at, widthM: Math.min(before.widthM, point.widthM) }
}

/** Adds the bends of a lane from a place of it to another; round its seam where that is shorter. */
function stretch(points: WalkPoint[], { line, route, closed }: NetLane, fromM: number, toM: number): void {
  const half = line.lengthM / 2
  if (closed && Math.abs(toM - fromM) > half) {
    const [seam, again] = toM > fromM ? [0, line.lengthM] : [line.lengthM, 0]
    bends(points, line, route.widthM, fromM, seam)
    bends(points, line, route.widthM, again, toM)
  } else bends(points, line, route.widthM, fromM, toM)
}

function bends(points: WalkPoint[], line: NetLane['line'], widthM: number, fromM: number, toM: number): void {
  put(points, { at: placeAt(line, fromM), widthM })
  const between = line.places.flatMap((at, k) =>
    line.s[k] > Math.min(fromM, toM) && line.s[k] < Math.max(fromM, toM) ? [at] : [],
  )
  for (const at of toM < fromM ? between.reverse() : between) put(points, { at, widthM })
  put(points, { at: placeAt(line, toM), widthM })
}
