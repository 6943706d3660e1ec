import { distance2, exact, toMillimetre, wrapAngle, type Point3 } from '@tidytrail/core/geometry'
import { junctionSchema, linkSchema, routeSchema, waypointSchema, type Level } from '@tidytrail/core/level'
import { placeAt } from './measured-line'
import { nearestM } from './sides'
import { laneNet, type LaneNet, type NetLane } from './net'
import { usualYields } from './yields'

/** Lanes that end or begin within so far of the ring, and head for its middle or away from it, are its arms, metres and as a cosine. */
const REACH_M = 26
const HEADS = 0.6
/** Lanes nearer to each other than this round the ring are one arm, radians. */
const ONE_ARM_RAD = 0.55
/** One comes in and leaves so far beside the middle of an arm along the ring, metres, and no more than this, radians. */
const BESIDE_M = 7.5
const BESIDE_RAD = 0.6
const LEAST_BESIDE_M = 2
/** Places of the ring lie no farther apart than this, radians. */
const APART_RAD = 0.45
/** How far beyond its ends the outline of the junction leads, metres. */
const OUTLINE_M = 1.5
const CORNERS = 24
/** Ways that leave or come in this near to a stop do so at it, metres. */
const ONE_STOP_M = 0.05
/** No two places of a ring are to be nearer to each other than this, metres. */
const PLACES_M = 1.5

interface Ask {
  readonly at: readonly [number, number, number]
  readonly radiusM: number
  readonly widthM: number
  readonly name: string
  /** The id of the ring, after which what belongs to it is called, and that of its junction. */
  readonly laneId: string
  readonly junctionId: string
}

type Added = {
  readonly in: 'waypoints' | 'routes' | 'links' | 'junctions'
  readonly id: string
  readonly thing: unknown
}

/** Why no ring can be made, or all that is one: its waypoints, its lane, the ways in and out, and its junction. */
export type Roundabout = { readonly add: readonly Added[]; readonly arms: number } | { readonly why: string }

interface Arm {
  rad: number
  readonly ends: NetLane[]
  readonly starts: NetLane[]
}

/** A roundabout about a place: a lane round it, on which one has the right of way, joined to all roads that lead to it. */
export function roundaboutAt(level: Level, ask: Ask): Roundabout {
  const { at, radiusM, widthM, name, laneId, junctionId } = ask
  const { drivesOn } = level.settings
  const net = laneNet(level)
  const arms = armsAbout(net, at, radiusM)
  const beside = besideArms(arms, radiusM)
  if (typeof beside === 'string') return { why: beside }
  // Round to the right where one drives on the right: the angle grows.
  const turn = drivesOn === 'right' ? 1 : -1
  const tail = laneId.slice(laneId.indexOf('_') + 1)
  const places: { rad: number; arm: Arm | undefined; out: boolean }[] = []
  const inOrder = [...arms].sort((a, b) => wrapUp(turn * (a.rad - arms[0].rad)) - wrapUp(turn * (b.rad - arms[0].rad)))
  for (const arm of inOrder) {
    places.push({ rad: arm.rad - turn * beside, arm, out: true })
    places.push({ rad: arm.rad + turn * beside, arm, out: false })
  }
  const all = places.flatMap((place, k) => {
    const next = places[(k + 1) % places.length]
    const gap = places.length > 1 ? wrapUp(turn * (next.rad - place.rad)) || 2 * Math.PI : 2 * Math.PI
    const pieces = Math.ceil(gap / APART_RAD)
    const between = Array.from({ length: pieces - 1 }, (_, q) => ({
      rad: place.rad + (turn * gap * (q + 1)) / pieces,
      arm: undefined,
      out: false,
    }))
    return [place, ...between]
  })
  const add: Added[] = []
  const stops: Record<string, unknown> = {}
  const waypointOf = new Map<string, string>()
  all.forEach(({ rad, arm, out }, k) => {
    const id = `wp_${tail}${k}`
    const place = [at[0] + radiusM * exact.cos(rad), at[1] + radiusM * exact.sin(rad), at[2]].map(toMillimetre)
    add.push({ in: 'waypoints', id, thing: waypointSchema.parse({ at: place }) })
    stops[`st_${tail}${k}`] = { waypointId: id }
    if (arm) waypointOf.set(`${arms.indexOf(arm)} ${out}`, id)
  })
  const ring = { name, kind: 'lane', travel: 'round', legs: 'drawn', curve: 'smooth', widthM, stops, order: Object.keys(stops) } // prettier-ignore
  add.push({ in: 'routes', id: laneId, thing: routeSchema.parse(ring) })
  arms.forEach((arm, a) => {
    arm.ends.forEach((lane, k) => {
      const link = { fromId: lane.endId, toId: waypointOf.get(`${a} false`)!, twoWay: false }
      add.push({ in: 'links', id: `ln_${tail}i${a}x${k}`, thing: linkSchema.parse(link) })
    })
    arm.starts.forEach((lane, k) => {
      const link = { fromId: waypointOf.get(`${a} true`)!, toId: lane.startId, twoWay: false }
      add.push({ in: 'links', id: `ln_${tail}o${a}x${k}`, thing: linkSchema.parse(link) })
    })
  })
  const far = Math.max(...arms.flatMap((arm) => [...arm.ends.map(endOf), ...arm.starts.map(startOf)].map((p) => distance2(p, [...at])))) // prettier-ignore
  const outline = Array.from({ length: CORNERS }, (_, k) => {
    const rad = (2 * Math.PI * k) / CORNERS
    const m = (far + OUTLINE_M) / exact.cos(Math.PI / CORNERS)
    return [toMillimetre(at[0] + m * exact.cos(rad)), toMillimetre(at[1] + m * exact.sin(rad))]
  })
  const junction = junctionSchema.parse({ name: `${name} junction`, ring: outline, control: 'give-way' })
  // Who is on the ring goes first: that is told of the level as it will be.
  const later = added(level, [...add, { in: 'junctions', id: junctionId, thing: junction }])
  const yields = usualYields(later, laneNet(later), junction)
  return { add: [...add, { in: 'junctions', id: junctionId, thing: { ...junction, yields } }], arms: arms.length }
}

/** How far beside the middle of each arm one comes in and leaves, radians; or why that cannot be. */
function besideArms(arms: readonly Arm[], radiusM: number): number | string {
  if (arms.length === 0)
    return `No lane ends or begins within ${REACH_M} m of the ring: roads that meet there have to end before it.`
  const gaps = arms.map((arm, k) => wrapUp(arms[(k + 1) % arms.length].rad - arm.rad) || 2 * Math.PI)
  const beside = Math.min(BESIDE_RAD, BESIDE_M / radiusM, Math.min(...gaps) / 2 - 0.08)
  return beside * radiusM < LEAST_BESIDE_M ? 'Two arms are too near to each other for a ring of this size.' : beside
}

/** How many arms a ring would have, or why there can be none: to be told while it is drawn. */
export function armsOfRing(level: Level, at: readonly [number, number, number], radiusM: number): number | string {
  const arms = armsAbout(laneNet(level), at, radiusM)
  const beside = besideArms(arms, radiusM)
  return typeof beside === 'string' ? beside : arms.length
}

const added = (level: Level, add: readonly Added[]): Level => {
  const next: Record<string, unknown> = { ...level }
  for (const { in: collection, id, thing } of add) next[collection] = { ...(next[collection] as object), [id]: thing }
  return next as unknown as Level
}

const endOf = (lane: NetLane): Point3 => lane.line.places[lane.line.places.length - 1]
const startOf = (lane: NetLane): Point3 => lane.line.places[0]
/** An angle from 0 up to a whole turn. */
const wrapUp = (rad: number): number => {
  const wrapped = wrapAngle(rad)
  return wrapped < -1e-9 ? wrapped + 2 * Math.PI : Math.max(0, wrapped)
}

/** The arms about a place, in the order of their angles. */
function armsAbout(net: LaneNet, at: readonly [number, number, number], radiusM: number): Arm[] {
  const found: { rad: number; lane: NetLane; end: boolean }[] = []
  for (const lane of net.lanes.values()) {
    if (lane.closed) continue
    for (const end of [true, false]) {
      const [x, y] = end ? endOf(lane) : startOf(lane)
      const [dx, dy] = [x - at[0], y - at[1]]
      const far = exact.hypot(dx, dy)
      if (far < radiusM + 1 || far > radiusM + REACH_M) continue
      const rad = end ? lane.endRad : lane.startRad
      const away = (exact.cos(rad) * dx + exact.sin(rad) * dy) / far
      // An end heads for the middle, a beginning away from it.
      if ((end ? -away : away) < HEADS) continue
      found.push({ rad: exact.atan2(dy, dx), lane, end })
    }
  }
  found.sort((a, b) => a.rad - b.rad)
  const arms: (Arm & { rads: number[] })[] = []
  for (const { rad, lane, end } of found) {
    let arm = arms.find((a) => Math.abs(wrapAngle(a.rads[0] - rad)) < ONE_ARM_RAD)
    if (!arm) arms.push((arm = { rad, rads: [], ends: [], starts: [] }))
    arm.rads.push(rad)
    ;(end ? arm.ends : arm.starts).push(lane)
  }
  for (const arm of arms) {
    const off = arm.rads.map((r) => wrapAngle(r - arm.rads[0]))
    arm.rad = wrapAngle(arm.rads[0] + (Math.min(...off) + Math.max(...off)) / 2)
  }
  return arms.sort((a, b) => a.rad - b.rad)
}

/**
 * How lanes that lead round are when one drives on the other side: the other way about, and where one came in beside an
 * arm one leaves.
 */
export function roundsTurned(net: LaneNet) {
  const moves: Record<string, [number, number, number]> = {}
  const orders: Record<string, string[]> = {}
  for (const lane of net.lanes.values()) {
    if (!lane.closed || lane.roadId !== undefined) continue
    const { order, stops } = lane.route
    const { lengthM } = lane.line
    const at = (m: number, list: readonly { m: number; lane: NetLane; end: boolean }[]) =>
      list.find((w) => Math.abs(w.m - m) < ONE_STOP_M)
    const outs = (net.out.get(lane.id) ?? []).map((w) => ({ m: w.fromM, lane: net.lanes.get(w.to)!, end: false }))
    const ins = (net.into.get(lane.id) ?? []).map((w) => ({ m: w.toM, lane: net.lanes.get(w.from)!, end: true }))
    if (outs.length === 0 && ins.length === 0) continue
    const now = lane.stopM.slice(0, order.length)
    const typed = now.map((m) => (at(m, outs) ? 'out' : at(m, ins) ? 'in' : ''))
    const later = [...now]
    order.forEach((_, k) => {
      if (typed[k] === '') return
      // Beside an arm one leaves and comes in: each where the other was.
      const step = typed[k] === 'out' ? 1 : order.length - 1
      let q = (k + step) % order.length
      while (q !== k && typed[q] === '') q = (q + step) % order.length
      if (q !== k && typed[q] !== typed[k]) later[k] = now[q]
      else {
        // An arm of one direction only: as far on the other side of it.
        const join = (at(now[k], outs) ?? at(now[k], ins))!
        const middle = nearestM(lane, (join.end ? endOf : startOf)(join.lane))
        later[k] = (((2 * middle - now[k]) % lengthM) + lengthM) % lengthM
        // A mere place of the ring that lies there changes with it.
        const there = now.findIndex((m, o) => typed[o] === '' && Math.abs(m - later[k]) < PLACES_M)
        if (there >= 0) {
          later[k] = now[there]
          later[there] = now[k]
        }
      }
    })
    order.forEach((stopId, k) => {
      if (later[k] !== now[k])
        moves[stops[stopId].waypointId] = placeAt(lane.line, later[k]).map(toMillimetre) as [number, number, number]
    })
    orders[lane.id] = order.map((stopId, k) => ({ stopId, m: later[k] })).sort((p, q) => q.m - p.m).map((o) => o.stopId) // prettier-ignore
  }
  return { moves, orders }
}
