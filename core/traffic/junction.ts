import { exact, ringHolds, wrapAngle, type Point3 } from '@tidytrail/core/geometry'
import { admits, type Junction, type Level } from '@tidytrail/core/level'
import { conflictsOf, type Conflict } from './conflicts'
import { THROUGH_RAD } from './joins'
import { directionAt, measured, placeAt, type MeasuredLine } from './measured-line'
import type { LaneNet, NetLane } from './net'

/** A way through a junction: a link, or a lane that leads through without an end in it. Metres, radians. */
export interface Way {
  readonly id: string
  readonly isLink: boolean
  readonly line: MeasuredLine
  /** The lanes it comes from and goes on along; the same for a lane that leads through. */
  readonly from: string
  readonly to: string
  /** How far along those it leaves and comes in. */
  readonly fromM: number
  readonly toM: number
  readonly inRad: number
  readonly turnRad: number
  readonly bodyM: number
}

/** What settles that two ways do not collide. */
export type Settled =
  | { readonly by: 'signal' }
  /** One gives way to the other; it may stand still first, and both may have green meanwhile. */
  | { readonly by: 'gives-way' | 'stops'; readonly who: string }
  | { readonly by: 'all-way' | 'side' }
  | { readonly by: 'nothing' }

/** Two ways of a junction that cannot both be used at once, and what settles that. */
export interface Pair {
  readonly a: Way
  readonly b: Way
  readonly conflicts: readonly Conflict[]
  readonly settled: Settled
}

/** A body is no wider than this where none is known, metres. */
const USUAL_M = 2

/** The widest body that may drive along a lane, metres; a usual one where there is none. */
export function widestOn(level: Pick<Level, 'profiles' | 'routes'>, laneId: string): number {
  let widest = 0
  for (const [id, { medium, radiusM }] of Object.entries(level.profiles))
    if (medium === 'wheels' && admits(level.routes[laneId], id)) widest = Math.max(widest, 2 * radiusM)
  return widest || USUAL_M
}

type Parts = Pick<Level, 'profiles' | 'routes' | 'junctions' | 'settings'>

/** The ways through a junction: all that lead over the middle of what they are within its outline. */
export function waysOf(level: Parts, net: LaneNet, junction: Junction): Way[] {
  const { ring } = junction
  const ways: Way[] = []
  const holds = (p: Point3) => ringHolds(ring, p[0], p[1])
  const bodies = new Map<string, number>()
  const bodyOf = (laneId: string): number => {
    if (junction.bodyM !== null) return junction.bodyM
    let m = bodies.get(laneId)
    if (m === undefined) bodies.set(laneId, (m = widestOn(level, laneId)))
    return m
  }
  for (const move of net.moves.values()) {
    if (move.linkId === undefined || !holds(placeAt(move.line, move.line.lengthM / 2))) continue
    const from = net.lanes.get(move.from)!
    ways.push({
      id: move.id,
      isLink: true,
      line: move.line,
      from: move.from,
      to: move.to,
      fromM: move.fromM,
      toM: move.toM,
      inRad: directionAt(from.line, move.fromM),
      turnRad: move.turnRad,
      bodyM: Math.max(bodyOf(move.from), bodyOf(move.to)),
    })
  }
  for (const lane of net.lanes.values()) ways.push(...through(lane, holds, bodyOf))
  return ways
}

/** The stretches of a lane that lead through an outline; one that begins or ends within it is an approach or an exit. */
function through(lane: NetLane, holds: (p: Point3) => boolean, bodyOf: (id: string) => number): Way[] {
  const { places, s, lengthM } = lane.line
  const inside = places.map(holds)
  if (!inside.includes(true)) return []
  const ends = !lane.closed && (inside[0] || inside[inside.length - 1])
  if (ends) return []
  // A round that lies wholly within is one way from its beginning to its beginning.
  const whole = inside.every(Boolean)
  const [first, last] = whole ? [0, places.length - 1] : [inside.indexOf(true), inside.lastIndexOf(true)]
  const fromM = whole ? 0 : s[Math.max(0, first - 1)]
  const toM = whole ? lengthM : s[Math.min(places.length - 1, last + 1)]
  const line = whole ? lane.line : stretchOf(lane.line, first, last)
  const inRad = directionAt(lane.line, fromM + 1e-6)
  return [
    {
      id: lane.id,
      isLink: false,
      line,
      from: lane.id,
      to: lane.id,
      fromM,
      toM,
      inRad,
      turnRad: wrapAngle(directionAt(lane.line, toM) - inRad),
      bodyM: bodyOf(lane.id),
    },
  ]
}

const stretches = new WeakMap<MeasuredLine, Map<string, MeasuredLine>>()
function stretchOf(line: MeasuredLine, first: number, last: number): MeasuredLine {
  let known = stretches.get(line)
  if (!known) stretches.set(line, (known = new Map()))
  const key = `${first} ${last}`
  let part = known.get(key)
  if (!part)
    known.set(key, (part = measured(line.places.slice(Math.max(0, first - 1), Math.min(line.places.length, last + 2)))))
  return part
}

const conflictsKnown = new WeakMap<MeasuredLine, WeakMap<MeasuredLine, { apartM: number; found: Conflict[] }>>()

/** Conflicts of two ways; those that part from one place do not count, as who is behind sees who is in front. */
function conflictsBetween(a: Way, b: Way): readonly Conflict[] {
  const apartM = (a.bodyM + b.bodyM) / 2
  let of = conflictsKnown.get(a.line)
  if (!of) conflictsKnown.set(a.line, (of = new WeakMap()))
  let known = of.get(b.line)
  if (known?.apartM !== apartM) {
    const found = conflictsOf(a.line, b.line, apartM).filter((c) => c.kind !== 'parting')
    of.set(b.line, (known = { apartM, found }))
  }
  return known.found
}

/** Every two ways of a junction that cannot both be used at once, and how each is settled. */
export function pairsOf(level: Parts, net: LaneNet, junction: Junction): Pair[] {
  const ways = waysOf(level, net, junction)
  const given = yieldsBetween(junction)
  const pairs: Pair[] = []
  for (let i = 0; i < ways.length; i++)
    for (let j = i + 1; j < ways.length; j++) {
      const [a, b] = [ways[i], ways[j]]
      // Who comes along the same lane follows whoever is in front.
      if (a.from === b.from && Math.abs(a.fromM - b.fromM) < 0.05) continue
      const conflicts = conflictsBetween(a, b)
      if (conflicts.length > 0) pairs.push({ a, b, conflicts, settled: settledBy(junction, given, a, b) })
    }
  return pairs
}

type Given = ReadonlyMap<string, { readonly stops: boolean }>
const pairKey = (who: string, to: string) => `${who} ${to}`

function yieldsBetween({ yields }: Junction): Given {
  const given = new Map<string, { stops: boolean }>()
  for (const y of yields) {
    const who = y.linkId ?? y.laneId
    const to = y.toLinkId ?? y.toLaneId
    if (who && to) given.set(pairKey(who, to), { stops: y.stops })
  }
  return given
}

/** Do two ways have green in the same stage? */
export const greenTogether = ({ phases }: Junction, a: Way, b: Way): boolean =>
  phases.some((p) => hasGreen(p, a) && hasGreen(p, b))
export const hasGreen = (phase: Junction['phases'][number], way: Pick<Way, 'id' | 'isLink'>): boolean =>
  (way.isLink ? phase.linkIds : phase.laneIds).includes(way.id)

function settledBy(junction: Junction, given: Given, a: Way, b: Way): Settled {
  if (junction.control === 'signals' && !greenTogether(junction, a, b)) {
    // One that has no green at all never comes.
    return { by: 'signal' }
  }
  const [ab, ba] = [given.get(pairKey(a.id, b.id)), given.get(pairKey(b.id, a.id))]
  // Each to the other is as good as neither.
  if (ab && !ba) return { by: ab.stops ? 'stops' : 'gives-way', who: a.id }
  if (ba && !ab) return { by: ba.stops ? 'stops' : 'gives-way', who: b.id }
  if (junction.control === 'all-way') return { by: 'all-way' }
  if (junction.control === 'side' && !ab && !ba && sideOf(a, b) !== undefined) return { by: 'side' }
  return { by: 'nothing' }
}

/**
 * By priority from one side, which of two ways goes first: the one that comes from the side on which the others drive
 * towards one, that is from the right where one drives on the right. Undefined for two that come from opposite.
 */
export function firstBySide(a: Way, b: Way, drivesOn: 'left' | 'right'): string | undefined {
  const from = sideOf(a, b)
  if (from === undefined) return undefined
  return (from === 'right') === (drivesOn === 'right') ? b.id : a.id
}

/** From which side the second of two ways comes, as the first sees it; undefined from ahead or behind. */
function sideOf(a: Way, b: Way): 'left' | 'right' | undefined {
  const turned = wrapAngle(b.inRad - a.inRad)
  if (Math.abs(turned) < 0.5 || Math.abs(turned) > Math.PI - 0.5) return undefined
  // One that heads to my left comes from my right.
  return turned > 0 ? 'right' : 'left'
}

/** How much a way has the right of way by itself, the more the greater: through before turning, towards the kerb before across. */
function rankOf(way: Way, drivesOn: 'left' | 'right'): number {
  if (!way.isLink) return 3
  if (Math.abs(way.turnRad) < THROUGH_RAD) return 2
  return way.turnRad > 0 === (drivesOn === 'left') ? 1 : 0
}

/**
 * Who gives way to whom, as it mostly is: those of the lesser road to those of the main one, who turns across to who
 * comes towards; along equal roads priority is from one side. The main road is the one whose lanes lead straight
 * through without a link, or else is faster, has more lanes, or comes first.
 * @param only pairs that need it: by default all that no signal settles
 * @param kept what has been said already and stays
 */
export function usualYields(level: Parts, net: LaneNet, junction: Junction, stops = false): Junction['yields'] {
  const pairs = pairsOf(level, net, { ...junction, control: junction.control === 'signals' ? 'signals' : 'none' })
  const { drivesOn } = level.settings
  const main = mainApproaches(net, waysOf(level, net, junction))
  const given = yieldsBetween(junction)
  const yields = junction.yields.filter((y) => (y.linkId ?? y.laneId) && (y.toLinkId ?? y.toLaneId))
  for (const { a, b, settled } of pairs) {
    if (settled.by !== 'nothing' || given.has(pairKey(a.id, b.id)) || given.has(pairKey(b.id, a.id))) continue
    const first = goesFirst(a, b, main, drivesOn)
    const [who, to] = first === a.id ? [b, a] : [a, b]
    const fromMinor = main.has(to.from) && !main.has(who.from)
    yields.push({
      linkId: who.isLink ? who.id : null,
      laneId: who.isLink ? null : who.id,
      toLinkId: to.isLink ? to.id : null,
      toLaneId: to.isLink ? null : to.id,
      stops: stops && fromMinor,
    })
  }
  return yields
}

function goesFirst(a: Way, b: Way, main: ReadonlySet<string>, drivesOn: 'left' | 'right'): string {
  const [ma, mb] = [main.has(a.from), main.has(b.from)]
  if (ma !== mb) return ma ? a.id : b.id
  const [ra, rb] = [rankOf(a, drivesOn), rankOf(b, drivesOn)]
  const facing = Math.abs(wrapAngle(b.inRad - a.inRad)) > Math.PI - 0.9
  if (facing && ra !== rb) return ra > rb ? a.id : b.id
  return firstBySide(a, b, drivesOn) ?? (ra === rb ? (a.id < b.id ? a.id : b.id) : ra > rb ? a.id : b.id)
}

/** The lanes of the main road: the first approach and those that face it. */
function mainApproaches(net: LaneNet, ways: readonly Way[]): Set<string> {
  const throughs = ways.filter((w) => !w.isLink)
  if (throughs.length > 0) return new Set(throughs.map((w) => w.from))
  const approaches = [...new Set(ways.map((w) => w.from))]
  const headed = (id: string) => ways.find((w) => w.from === id)!.inRad
  const beside = (id: string) =>
    approaches.filter((o) => Math.abs(wrapAngle(headed(o) - headed(id))) < THROUGH_RAD).length
  const opposed = (id: string) =>
    approaches.some((o) => Math.abs(wrapAngle(headed(o) - headed(id))) > Math.PI - THROUGH_RAD)
  const score = (id: string) => {
    const { speedLimitMps, widthM } = net.lanes.get(id)!.route
    return (opposed(id) ? 1000 : 0) + 10 * (speedLimitMps ?? 14) + 5 * beside(id) + widthM
  }
  const best = [...approaches].sort((p, q) => score(q) - score(p) || (p < q ? -1 : 1))[0]
  if (best === undefined) return new Set()
  const along = (id: string) => {
    const off = Math.abs(wrapAngle(headed(id) - headed(best)))
    return off < THROUGH_RAD || off > Math.PI - THROUGH_RAD
  }
  return new Set(approaches.filter(along))
}

/** A round of ways each of which gives way to the next, so that nobody may ever go; undefined when there is none. */
export function yieldRing(pairs: readonly Pair[]): string[] | undefined {
  const to = new Map<string, string[]>()
  for (const { a, b, settled } of pairs) {
    if (settled.by !== 'gives-way' && settled.by !== 'stops') continue
    const [who, other] = settled.who === a.id ? [a.id, b.id] : [b.id, a.id]
    to.set(who, [...(to.get(who) ?? []), other])
  }
  const done = new Set<string>()
  for (const start of to.keys()) {
    if (done.has(start)) continue
    // Depth first, with the way that led here.
    const path: string[] = []
    const on = new Set<string>()
    const stack: { id: string; next: number }[] = [{ id: start, next: 0 }]
    path.push(start)
    on.add(start)
    while (stack.length > 0) {
      const top = stack[stack.length - 1]
      const other = (to.get(top.id) ?? [])[top.next++]
      if (other === undefined) {
        stack.pop()
        on.delete(path.pop()!)
        done.add(top.id)
      } else if (on.has(other)) return path.slice(path.indexOf(other))
      else if (!done.has(other)) {
        stack.push({ id: other, next: 0 })
        path.push(other)
        on.add(other)
      }
    }
  }
  return undefined
}

/** Outlines of the junctions there could be: where ways conflict that lie in none yet, grown to where each conflict begins. */
export function suggestJunctions(level: Parts, net: LaneNet): Point3[][] {
  const rings = Object.values(level.junctions).map((j) => j.ring)
  const isIn = (p: Point3) => rings.some((ring) => ringHolds(ring, p[0], p[1]))
  const moves = [...net.moves.values()].filter(
    (m) => m.linkId !== undefined && !isIn(placeAt(m.line, m.line.lengthM / 2)),
  )
  const parent = moves.map((_, k) => k)
  const root = (k: number): number => (parent[k] === k ? k : (parent[k] = root(parent[k])))
  const box = moves.map(({ line }) => {
    const xs = line.places.map((p) => p[0])
    const ys = line.places.map((p) => p[1])
    return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)]
  })
  const clashes = new Set<number>()
  for (let i = 0; i < moves.length; i++)
    for (let j = i + 1; j < moves.length; j++) {
      const [p, q] = [box[i], box[j]]
      if (p[2] + 3 < q[0] || q[2] + 3 < p[0] || p[3] + 3 < q[1] || q[3] + 3 < p[1]) continue
      if (moves[i].from === moves[j].from && moves[i].fromM === moves[j].fromM) {
        parent[root(j)] = root(i)
        continue
      }
      const apartM = (widestOn(level, moves[i].from) + widestOn(level, moves[j].from)) / 2
      if (!conflictsOf(moves[i].line, moves[j].line, apartM).some((c) => c.kind !== 'parting')) continue
      parent[root(j)] = root(i)
      clashes.add(i)
      clashes.add(j)
    }
  const clusters = new Map<number, Point3[]>()
  const clashing = new Set<number>([...clashes].map(root))
  moves.forEach(({ line, widthM }, k) => {
    if (!clashing.has(root(k))) return
    const list = clusters.get(root(k)) ?? []
    for (const [x, y, z] of line.places)
      for (let c = 0; c < 8; c++) {
        const rad = (c * Math.PI) / 4
        const m = Math.max(1, widthM / 2)
        list.push([x + m * exact.cos(rad), y + m * exact.sin(rad), z])
      }
    clusters.set(root(k), list)
  })
  return [...clusters.values()].map(hullOf)
}

/** The convex hull of places, counterclockwise (Andrew 1979). */
function hullOf(places: readonly Point3[]): Point3[] {
  const sorted = [...places].sort((p, q) => p[0] - q[0] || p[1] - q[1])
  const half = (list: readonly Point3[]) => {
    const hull: Point3[] = []
    for (const p of list) {
      while (hull.length > 1) {
        const [a, b] = [hull[hull.length - 2], hull[hull.length - 1]]
        if ((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]) > 1e-9) break
        hull.pop()
      }
      hull.push(p)
    }
    return hull.slice(0, -1)
  }
  return [...half(sorted), ...half(sorted.reverse())]
}
