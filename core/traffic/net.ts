import { distance2, turningLine, turnRoundLine, wrapAngle, type Point3 } from '@tidytrail/core/geometry'
import type { Level, Link, Route } from '@tidytrail/core/level'
import { courseOf } from '@tidytrail/core/network'
import { directionAt, measured, placeAt, plainLine, type MeasuredLine } from './measured-line'

/** A lane as those see it who travel along it. Metres, radians. */
export interface NetLane {
  readonly id: string
  readonly route: Route
  readonly line: MeasuredLine
  /** How far along it each of its stops is. */
  readonly stopM: readonly number[]
  readonly closed: boolean
  /** The waypoints it begins and ends at. */
  readonly startId: string
  readonly endId: string
  readonly startRad: number
  readonly endRad: number
  /** The road that lays it, and which of its lanes it is. */
  readonly roadId: string | undefined
  readonly key: string | undefined
}

/** A way from one lane into another: a link, or a waypoint at which the one ends and the other goes on. */
export interface NetMove {
  /** The link's id, or those of the lanes. */
  readonly id: string
  readonly linkId: string | undefined
  readonly from: string
  readonly fromM: number
  readonly to: string
  readonly toM: number
  readonly line: MeasuredLine
  readonly widthM: number
  /** By how much it turns, to the left when positive. */
  readonly turnRad: number
  readonly share: number
}

/** All lanes that are driven along, and the ways between them. */
export interface LaneNet {
  readonly lanes: ReadonlyMap<string, NetLane>
  readonly moves: ReadonlyMap<string, NetMove>
  readonly out: ReadonlyMap<string, readonly NetMove[]>
  readonly into: ReadonlyMap<string, readonly NetMove[]>
}

type NetParts = Pick<Level, 'routes' | 'waypoints' | 'links' | 'roads'>

/** Is a route a lane one drives along? */
export const isDriven = (route: Route): boolean =>
  route.kind === 'lane' && route.use === 'drive' && route.order.length >= 2

/** The net of a level without lanes. */
export const NO_LANES: LaneNet = { lanes: new Map(), moves: new Map(), out: new Map(), into: new Map() }

const drivenIn = new WeakMap<Level['routes'], readonly string[]>()
/** The lanes one drives along, by id in order; looked for once for each state of the routes. */
function drivenOf(routes: Level['routes']): readonly string[] {
  let ids = drivenIn.get(routes)
  if (!ids)
    drivenIn.set(
      routes,
      (ids = Object.keys(routes)
        .filter((id) => isDriven(routes[id]))
        .sort()),
    )
  return ids
}

const oneWayKnown = new WeakMap<Level['links'], readonly string[]>()
/** Links that lead one way, by id in order. */
function oneWayIn(links: Level['links']): readonly string[] {
  let ids = oneWayKnown.get(links)
  if (!ids)
    oneWayKnown.set(
      links,
      (ids = Object.keys(links)
        .filter((id) => !links[id].twoWay)
        .sort()),
    )
  return ids
}

const lanesKnown = new WeakMap<Route, { line: readonly (readonly Point3[])[]; lane: NetLane }>()

/** A route as a lane, whoever goes along it; the same object while it is the same line. */
export function laneOf(
  id: string,
  route: Route,
  waypoints: Level['waypoints'],
  of?: { roadId: string; key: string },
): NetLane {
  const pieces = courseOf(route, waypoints)
  const before = lanesKnown.get(route)
  if (before && before.line === pieces && before.lane.roadId === of?.roadId && before.lane.key === of?.key)
    return before.lane
  const line = measured(plainLine(pieces.flatMap((piece, k) => (k === 0 ? piece : piece.slice(1)))))
  const stopM: number[] = []
  let run = 0
  for (const piece of pieces) {
    stopM.push(run)
    run += measured(piece).lengthM
  }
  const closed = route.travel === 'round' && route.order.length > 2
  if (!closed) stopM.push(run)
  const waypointAt = (k: number) => route.stops[route.order[k]].waypointId
  const lane: NetLane = {
    id,
    route,
    line,
    stopM,
    closed,
    startId: waypointAt(0),
    endId: closed ? waypointAt(0) : waypointAt(route.order.length - 1),
    startRad: directionAt(line, 0),
    endRad: directionAt(line, line.lengthM),
    roadId: of?.roadId,
    key: of?.key,
  }
  lanesKnown.set(route, { line: pieces, lane })
  return lane
}

const movesKnown = new WeakMap<Link, NetMove>()
let last: { parts: NetParts; net: LaneNet } | undefined

/** The lanes of a level and how they join. What did not change is the same object as before. */
export function laneNet(level: NetParts): LaneNet {
  const { routes, waypoints, links, roads } = level
  if (
    last?.parts.routes === routes &&
    last.parts.waypoints === waypoints &&
    last.parts.links === links &&
    last.parts.roads === roads
  )
    return last.net
  const driven = drivenOf(routes)
  if (driven.length === 0) return NO_LANES
  const laid = new Map<string, { roadId: string; key: string }>()
  for (const roadId in roads)
    for (const { key, laneId } of roads[roadId].lanes) if (laneId) laid.set(laneId, { roadId, key })
  const lanes = new Map<string, NetLane>()
  const at = new Map<string, { lane: NetLane; stop: number }[]>()
  for (const id of driven) {
    const lane = laneOf(id, routes[id], waypoints, laid.get(id))
    if (lane.line.places.length < 2) continue
    lanes.set(id, lane)
    lane.route.order.forEach((stopId, stop) => {
      const { waypointId } = lane.route.stops[stopId]
      const list = at.get(waypointId)
      if (list) list.push({ lane, stop })
      else at.set(waypointId, [{ lane, stop }])
    })
  }
  const moves = new Map<string, NetMove>()
  for (const linkId of oneWayIn(links)) {
    const link = links[linkId]
    // Which lane is left and which come into, where several have the waypoint: one that ends there, one that goes on.
    const from = preferred(at.get(link.fromId), (stop, lane) => stop === lane.route.order.length - 1)
    const to = preferred(at.get(link.toId), (stop) => stop === 0)
    if (from && to && (from.lane !== to.lane || from.stop !== to.stop))
      moves.set(linkId, moveOf(linkId, link, from, to))
  }
  for (const lane of lanes.values()) {
    if (lane.closed) continue
    for (const next of at.get(lane.endId) ?? []) {
      if (next.lane === lane || (!next.lane.closed && next.stop === next.lane.route.order.length - 1)) continue
      const id = `${lane.id}>${next.lane.id}`
      const place = lane.line.places[lane.line.places.length - 1]
      const rad = directionAt(next.lane.line, next.lane.stopM[next.stop] + 1e-6)
      const made: NetMove = {
        id,
        linkId: undefined,
        from: lane.id,
        fromM: lane.line.lengthM,
        to: next.lane.id,
        toM: next.lane.stopM[next.stop],
        line: measured([place, place]),
        widthM: Math.max(lane.route.widthM, next.lane.route.widthM),
        turnRad: wrapAngle(rad - lane.endRad),
        share: 1,
      }
      const known = last?.net.moves.get(id)
      moves.set(id, known && sameShared(known, made) ? known : made)
    }
  }
  const before = last?.net
  const by = (of: (move: NetMove) => string, old: LaneNet['out'] | undefined) => {
    const map = new Map<string, NetMove[]>()
    for (const move of moves.values()) {
      const list = map.get(of(move))
      if (list) list.push(move)
      else map.set(of(move), [move])
    }
    // What is as before stays the same objects.
    for (const [id, list] of map) {
      const was = old?.get(id)
      if (was?.length === list.length && was.every((m, k) => m === list[k])) map.set(id, was as NetMove[])
    }
    return map
  }
  const net = { lanes, moves, out: by((m) => m.from, before?.out), into: by((m) => m.to, before?.into) }
  last = { parts: { routes, waypoints, links, roads }, net }
  return net
}

/** Is a way over a shared waypoint the same as before? */
const sameShared = (a: NetMove, b: NetMove): boolean =>
  a.fromM === b.fromM &&
  a.toM === b.toM &&
  a.turnRad === b.turnRad &&
  a.widthM === b.widthM &&
  distance2(a.line.places[0], b.line.places[0]) === 0

type OnLane = { readonly lane: NetLane; readonly stop: number }
function preferred(list: readonly OnLane[] | undefined, is: (stop: number, lane: NetLane) => boolean) {
  return list?.find(({ lane, stop }) => is(stop, lane)) ?? list?.[0]
}

function moveOf(linkId: string, link: Link, from: OnLane, to: OnLane): NetMove {
  const fromM = from.lane.stopM[from.stop]
  const toM = to.lane.stopM[to.stop]
  const before = movesKnown.get(link)
  const [a, b] = [placeAt(from.lane.line, fromM), placeAt(to.lane.line, toM)]
  const [ra, rb] = [directionAt(from.lane.line, fromM), directionAt(to.lane.line, toM + 1e-6)]
  const widthM = Math.min(from.lane.route.widthM, to.lane.route.widthM)
  if (
    before &&
    before.from === from.lane.id &&
    before.to === to.lane.id &&
    before.fromM === fromM &&
    before.toM === toM &&
    before.widthM === widthM &&
    before.turnRad === wrapAngle(rb - ra) &&
    distance2(before.line.places[0], a) === 0 &&
    distance2(before.line.places[before.line.places.length - 1], b) === 0
  )
    return before
  const [start, end] = [
    { at: a, rad: ra },
    { at: b, rad: rb },
  ]
  const move: NetMove = {
    id: linkId,
    linkId,
    from: from.lane.id,
    fromM,
    to: to.lane.id,
    toM,
    line: measured(plainLine(link.turnM === null ? turningLine(start, end) : turnRoundLine(start, end, link.turnM))),
    widthM,
    turnRad: wrapAngle(rb - ra),
    share: link.share,
  }
  movesKnown.set(link, move)
  return move
}
