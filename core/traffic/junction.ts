import { boxHolds, boxOf, ringHolds, wrapAngle, type Point2, type Point3 } from '@tidytrail/core/geometry'
import { admits, type Junction, type Level, type Yield } from '@tidytrail/core/level'
import Flatbush from 'flatbush'
import KDBush from 'kdbush'
import { knownConflicts, partOf, type Conflict } from './conflicts'
import { directionAt, measured, placeAt, type MeasuredLine } from './measured-line'
import type { LaneNet, NetLane, NetMove } from './net'

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
  | { readonly by: 'gives-way' | 'stops'; readonly who: string; readonly watchM: number | null }
  | { readonly by: 'all-way' | 'side' }
  | { readonly by: 'nothing' }

/** Two ways of a junction that cannot both be used at once, and what settles that. */
export interface Pair {
  readonly a: Way
  readonly b: Way
  readonly conflicts: readonly Conflict[]
  readonly settled: Settled
}

/** A conflict from here on begins where its way does, metres. */
const AT_ITS_START_M = 0.01

/** A body is no wider than this where none is known, metres. */
const USUAL_M = 2

const widths = new WeakMap<Level['profiles'], WeakMap<Level['routes'][string], number>>()

/** The widest body that may drive along a lane, metres; a usual one where there is none. */
export function widestOn({ profiles, routes }: Pick<Level, 'profiles' | 'routes'>, laneId: string): number {
  const route = routes[laneId]
  let of = widths.get(profiles)
  if (!of) widths.set(profiles, (of = new WeakMap()))
  let widest = of.get(route)
  if (widest === undefined) {
    widest = 0
    for (const [id, { medium, radiusM }] of Object.entries(profiles))
      if (medium === 'wheels' && admits(route, id)) widest = Math.max(widest, 2 * radiusM)
    of.set(route, (widest ||= USUAL_M))
  }
  return widest
}

/** What of a level a junction is read from. */
export type JunctionParts = Pick<Level, 'profiles' | 'routes' | 'junctions' | 'settings'>

interface Indexed {
  readonly moves: readonly NetMove[]
  readonly middles: KDBush
  readonly lanes: readonly NetLane[]
  readonly boxes: Flatbush | undefined
}
const indexed = new WeakMap<LaneNet, Indexed>()

/** Where links have their middle, and lanes lie, to be found by place; once for each net. */
function indexOf(net: LaneNet): Indexed {
  let found = indexed.get(net)
  if (found) return found
  const moves = [...net.moves.values()].filter((m) => m.linkId !== undefined)
  const middles = new KDBush(moves.length)
  for (const { line } of moves) {
    const [x, y] = placeAt(line, line.lengthM / 2)
    middles.add(x, y)
  }
  middles.finish()
  const lanes = [...net.lanes.values()]
  let boxes: Flatbush | undefined
  if (lanes.length > 0) {
    boxes = new Flatbush(lanes.length)
    for (const { line } of lanes) {
      const { minX, minY, maxX, maxY } = boxOf(line.places)
      boxes.add(minX, minY, maxX, maxY)
    }
    boxes.finish()
  }
  indexed.set(net, (found = { moves, middles, lanes, boxes }))
  return found
}

interface KnownWays {
  readonly profiles: Level['profiles']
  /** The links and lanes about the junction, and the lanes the links come from. */
  readonly about: readonly (NetMove | NetLane)[]
  readonly ways: readonly Way[]
}
const waysKnown = new WeakMap<Junction, KnownWays>()

/**
 * The ways through a junction: links that have their middle within its outline, and lanes that lead through it. They are
 * the same objects as before for as long as nothing about the junction has changed.
 */
export function waysOf(level: JunctionParts, net: LaneNet, junction: Junction): readonly Way[] {
  const { minX, minY, maxX, maxY } = boxOf(junction.ring)
  const { moves, middles, lanes, boxes } = indexOf(net)
  const links = middles
    .range(minX, minY, maxX, maxY)
    .sort((p, q) => p - q)
    .map((k) => moves[k])
  const leading = boxes?.search(minX, minY, maxX, maxY).sort((p, q) => p - q).map((k) => lanes[k]) ?? [] // prettier-ignore
  const about = [...links, ...leading, ...links.map((m) => net.lanes.get(m.from)!)]
  const known = waysKnown.get(junction)
  if (
    known?.profiles === level.profiles &&
    known.about.length === about.length &&
    known.about.every((one, k) => one === about[k])
  )
    return known.ways
  const ways = findWays(level, net, junction, links, leading)
  waysKnown.set(junction, { profiles: level.profiles, about, ways })
  return ways
}

function findWays(
  level: JunctionParts,
  net: LaneNet,
  junction: Junction,
  links: readonly NetMove[],
  leading: readonly NetLane[],
): Way[] {
  const { ring } = junction
  const box = boxOf(ring)
  const holds = ([x, y]: Point3) => boxHolds(box, x, y) && ringHolds(ring, x, y)
  const bodyOf = (laneId: string): number => junction.bodyM ?? widestOn(level, laneId)
  const ways: Way[] = []
  for (const move of links) {
    if (!holds(placeAt(move.line, move.line.lengthM / 2))) continue
    ways.push(linkWay(net, move, bodyOf))
  }
  for (const lane of leading) ways.push(...through(lane, ring, holds, bodyOf))
  return ways
}

/** The way a link is from one lane into another. @param bodyOf how wide those are who drive along a lane, metres */
export const linkWay = (net: LaneNet, move: NetMove, bodyOf: (laneId: string) => number): Way => ({
  id: move.id,
  isLink: true,
  line: move.line,
  from: move.from,
  to: move.to,
  fromM: move.fromM,
  toM: move.toM,
  inRad: directionAt(net.lanes.get(move.from)!.line, move.fromM),
  turnRad: move.turnRad,
  bodyM: Math.max(bodyOf(move.from), bodyOf(move.to)),
})

/** The stretch of a lane that leads through an outline; one that begins or ends within it is an approach or an exit. */
function through(
  lane: NetLane,
  ring: readonly Point2[],
  holds: (p: Point3) => boolean,
  bodyOf: (id: string) => number,
): Way[] {
  const { places, lengthM } = lane.line
  const begins = holds(places[0])
  if (!lane.closed && (begins || holds(places[places.length - 1]))) return []
  const crossed = crossingsOf(lane.line, ring)
  // A round that lies wholly within is one way from its beginning to its beginning.
  if (crossed.length === 0 && !begins) return []
  const whole = crossed.length < 2
  const [first, last] = [Math.min(...crossed), Math.max(...crossed)]
  // One that begins within comes in at its last crossing, and leaves after it has begun anew.
  const [fromM, toM] = whole ? [0, lengthM] : begins ? [last, first] : [first, last]
  const inRad = directionAt(lane.line, fromM + 1e-6)
  return [
    {
      id: lane.id,
      isLink: false,
      line: whole ? lane.line : stretchOf(lane.line, fromM, toM),
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

/** How far along a line it crosses an outline, each time, metres. */
function crossingsOf({ places, s }: MeasuredLine, ring: readonly Point2[]): number[] {
  const found: number[] = []
  for (let k = 1; k < places.length; k++) {
    const [p, q] = [places[k - 1], places[k]]
    const [vx, vy] = [q[0] - p[0], q[1] - p[1]]
    for (let i = 0; i < ring.length; i++) {
      const [a, b] = [ring[i], ring[(i + 1) % ring.length]]
      const [ux, uy] = [b[0] - a[0], b[1] - a[1]]
      const across = vx * uy - vy * ux
      if (Math.abs(across) < 1e-12) continue
      const t = ((a[0] - p[0]) * uy - (a[1] - p[1]) * ux) / across
      const along = ((a[0] - p[0]) * vy - (a[1] - p[1]) * vx) / across
      if (t >= 0 && t <= 1 && along >= 0 && along <= 1) found.push(s[k - 1] + t * (s[k] - s[k - 1]))
    }
  }
  return found
}

const stretches = new WeakMap<MeasuredLine, Map<string, MeasuredLine>>()
function stretchOf(line: MeasuredLine, fromM: number, toM: number): MeasuredLine {
  let known = stretches.get(line)
  if (!known) stretches.set(line, (known = new Map()))
  const key = `${fromM} ${toM}`
  let part = known.get(key)
  if (!part) {
    const over = fromM > toM
    part = over
      ? measured([
          ...partOf(line, { fromM, toM: line.lengthM }).places,
          ...partOf(line, { fromM: 0, toM }).places.slice(1),
        ])
      : partOf(line, { fromM, toM })
    known.set(key, part)
  }
  return part
}

/**
 * Conflicts of two ways. Where both part from one place there is none, as who is behind sees who is in front; nor where
 * a link leaves the lane it leads out of.
 */
function conflictsBetween(a: Way, b: Way): readonly Conflict[] {
  const all = knownConflicts(a.line, b.line, (a.bodyM + b.bodyM) / 2)
  const parts = (c: Conflict) =>
    c.kind === 'parting' ||
    (!b.isLink && a.from === b.from && c.a.fromM < AT_ITS_START_M) ||
    (!a.isLink && a.from === b.from && c.b.fromM < AT_ITS_START_M)
  return all.some(parts) ? all.filter((c) => !parts(c)) : all
}

const pairsKnown = new WeakMap<Junction, { ways: readonly Way[]; pairs: readonly Pair[] }>()

/** Every two ways of a junction that cannot both be used at once, and how each is settled. */
export function pairsOf(level: JunctionParts, net: LaneNet, junction: Junction): readonly Pair[] {
  const ways = waysOf(level, net, junction)
  const known = pairsKnown.get(junction)
  if (known?.ways === ways) return known.pairs
  const pairs = findPairs(ways, junction)
  pairsKnown.set(junction, { ways, pairs })
  return pairs
}

function findPairs(ways: readonly Way[], junction: Junction): Pair[] {
  const given = yieldsBetween(junction)
  const pairs: Pair[] = []
  for (let i = 0; i < ways.length; i++)
    for (let j = i + 1; j < ways.length; j++) {
      const [a, b] = [ways[i], ways[j]]
      // Who comes along the same lane follows whoever is in front.
      if (a.isLink && b.isLink && a.from === b.from && Math.abs(a.fromM - b.fromM) < 0.05) continue
      const conflicts = conflictsBetween(a, b)
      if (conflicts.length > 0) pairs.push({ a, b, conflicts, settled: settledBy(junction, given, a, b) })
    }
  return pairs
}

type Given = ReadonlyMap<string, { readonly stops: boolean; readonly watchM: number | null }>
export const pairKey = (who: string, to: string) => `${who} ${to}`

/** Who gives way, and to whom; null for what was deleted. */
export const whoYields = (y: Yield): string | null => y.linkId ?? y.laneId
export const yieldsTo = (y: Yield): string | null => y.toLinkId ?? y.toLaneId
export const yieldKey = (y: Yield): string => pairKey(whoYields(y) ?? '', yieldsTo(y) ?? '')

/** One way giving way to another, watching as far as it needs. @param stops does it stand still first? */
export const yieldOf = (who: Way, to: Way, stops: boolean): Yield => ({
  linkId: who.isLink ? who.id : null,
  laneId: who.isLink ? null : who.id,
  toLinkId: to.isLink ? to.id : null,
  toLaneId: to.isLink ? null : to.id,
  stops,
  watchM: null,
})

/** Of two ways the one that gives way, and the other; undefined where neither does. */
export function yieldIn({
  a,
  b,
  settled,
}: Pair): { own: Way; other: Way; stops: boolean; watchM: number | null } | undefined {
  // prettier-ignore
  if (settled.by !== 'gives-way' && settled.by !== 'stops') return undefined
  const [own, other] = settled.who === a.id ? [a, b] : [b, a]
  return { own, other, stops: settled.by === 'stops', watchM: settled.watchM }
}

export function yieldsBetween({ yields }: Junction): Given {
  const given = new Map<string, { stops: boolean; watchM: number | null }>()
  for (const y of yields) {
    const [who, to] = [whoYields(y), yieldsTo(y)]
    if (who && to) given.set(pairKey(who, to), { stops: y.stops, watchM: y.watchM })
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
  if (ab && !ba) return { by: ab.stops ? 'stops' : 'gives-way', who: a.id, watchM: ab.watchM }
  if (ba && !ab) return { by: ba.stops ? 'stops' : 'gives-way', who: b.id, watchM: ba.watchM }
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
