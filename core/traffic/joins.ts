import { distance2, exact, turningLine, wrapAngle } from '@tidytrail/core/geometry'
import KDBush from 'kdbush'
import { Groups } from './groups'
import { measured, tightestM } from './measured-line'
import type { LaneNet, NetLane } from './net'

/** A way from the end of one lane into the beginning of another that there could be. */
export interface Suggestion {
  readonly from: string
  readonly to: string
  readonly fromWaypointId: string
  readonly toWaypointId: string
  readonly gapM: number
  /** By how much it turns, to the left when positive, radians. */
  readonly turnRad: number
  /** Does the lane go straight on, with nothing else it could do? */
  readonly goesOn: boolean
}

/** A beginning is looked for so far ahead of an end, metres. */
const FAR_M = 45
/** And no farther than so many times the nearest, and so much. */
const NEAREST_TIMES = 2.6
const NEAREST_M = 9
/** It lies ahead, and one comes into it from behind: at most so far aside, as the cosine of the angle. */
const AHEAD = 0.2
/** One does not turn farther than this, radians: that would be back where one came from. */
const MOST_TURN_RAD = 2.6
/** A turn this small is none. */
export const THROUGH_RAD = 0.5
/** Where two meet at one place but for so many widths, one goes on into the other up to such a bend, radians. */
const MEETS_WIDTHS = 0.75
const MEETS_RAD = 1
/** No turning line is tighter than this, metres. */
const TIGHTEST_M = 2.5
/** Lanes that end side by side do so within so many widths and with so much between their directions, radians. */
const ABREAST_WIDTHS = 1.7
const ABREAST_RAD = 0.35

type End = { readonly lane: NetLane; readonly x: number; readonly y: number; readonly rad: number }

const endOf = (lane: NetLane): End => {
  const [x, y] = lane.line.places[lane.line.places.length - 1]
  return { lane, x, y, rad: lane.endRad }
}
const startOf = (lane: NetLane): End => {
  const [x, y] = lane.line.places[0]
  return { lane, x, y, rad: lane.startRad }
}

/**
 * The joins lanes nearly make: ends with a beginning ahead that fits. Where several lanes end side by side, each turn is
 * made from the lane on that side into the lane on that side, and straight on each goes into the one opposite. Ends and
 * beginnings that are joined already are left as they are.
 */
export function suggestJoins(net: LaneNet, drivesOn: 'left' | 'right'): Suggestion[] {
  const open = [...net.lanes.values()].filter((lane) => !lane.closed)
  // What leads into a lane that leads round goes on by that, and does not cross it.
  const round = (id: string) => net.lanes.get(id)!.closed
  const ends = open.filter((lane) => !net.out.get(lane.id)?.some((m) => round(m.to))).map(endOf)
  const starts = open.filter((lane) => !net.into.get(lane.id)?.some((m) => round(m.from))).map(startOf)
  if (starts.length === 0) return []
  const index = new KDBush(starts.length)
  for (const { x, y } of starts) index.add(x, y)
  index.finish()
  const joined = new Set([...net.moves.values()].map((m) => `${m.from} ${m.to}`))
  const approachOf = groups(ends, drivesOn)
  const exitOf = groups(starts, drivesOn)
  const found: Suggestion[] = []
  const seen = new Set<readonly End[]>()
  for (const end of ends) {
    const approach = approachOf.get(end.lane.id)!
    if (seen.has(approach)) continue
    seen.add(approach)
    const near = new Map<readonly End[], number>()
    for (const one of approach)
      for (const k of index.within(one.x, one.y, FAR_M)) {
        const start = starts[k]
        if (!fits(one, start)) continue
        const exit = exitOf.get(start.lane.id)!
        near.set(exit, Math.min(near.get(exit) ?? Infinity, exact.hypot(start.x - one.x, start.y - one.y)))
      }
    const nearest = Math.min(...near.values())
    const exits = [...near].filter(([, m]) => m <= nearest * NEAREST_TIMES + NEAREST_M).map(([exit]) => exit)
    for (const exit of exits)
      for (const [one, start] of pairs(approach, exit, drivesOn)) {
        if (!fits(one, start) || joined.has(`${one.lane.id} ${start.lane.id}`)) continue
        const turnRad = wrapAngle(start.rad - one.rad)
        found.push({
          from: one.lane.id,
          to: start.lane.id,
          fromWaypointId: one.lane.endId,
          toWaypointId: start.lane.startId,
          gapM: distance2([one.x, one.y], [start.x, start.y]),
          turnRad,
          goesOn: exits.length === 1 && (Math.abs(turnRad) < THROUGH_RAD || meets(one, start)),
        })
      }
  }
  return found.sort((a, b) => (a.from < b.from ? -1 : a.from > b.from ? 1 : a.to < b.to ? -1 : 1))
}

const fitting = new WeakMap<NetLane, WeakMap<NetLane, boolean>>()

/** Could the end of one lane lead into the beginning of another? Worked out once for two lanes. */
function fits(end: End, start: End): boolean {
  let of = fitting.get(end.lane)
  if (!of) fitting.set(end.lane, (of = new WeakMap()))
  let known = of.get(start.lane)
  if (known === undefined) of.set(start.lane, (known = couldJoin(end, start)))
  return known
}

/** Do both lie at one place, or nearly: lanes of roads that meet at a bend reach a little over or short of each other. */
function meets(end: End, start: End): boolean {
  const widthM = Math.min(end.lane.route.widthM, start.lane.route.widthM)
  return (
    exact.hypot(start.x - end.x, start.y - end.y) < MEETS_WIDTHS * widthM &&
    Math.abs(wrapAngle(start.rad - end.rad)) < MEETS_RAD
  )
}

function couldJoin(end: End, start: End): boolean {
  if (start.lane === end.lane) return false
  const gap = exact.hypot(start.x - end.x, start.y - end.y)
  if (gap < 1e-6) return Math.abs(wrapAngle(start.rad - end.rad)) < MOST_TURN_RAD
  const [dx, dy] = [(start.x - end.x) / gap, (start.y - end.y) / gap]
  const turned = Math.abs(wrapAngle(start.rad - end.rad))
  if (turned > MOST_TURN_RAD) return false
  if (meets(end, start)) return true
  if (dx * exact.cos(end.rad) + dy * exact.sin(end.rad) < AHEAD) return false
  if (dx * exact.cos(start.rad) + dy * exact.sin(start.rad) < AHEAD) return false
  // Straight on, it does not shift far aside.
  if (turned < THROUGH_RAD && gap > 1 && dx * exact.cos(end.rad) + dy * exact.sin(end.rad) < 0.7) return false
  const line = turningLine({ at: [end.x, end.y, 0], rad: end.rad }, { at: [start.x, start.y, 0], rad: start.rad })
  return tightestM(measured(line)) >= TIGHTEST_M
}

/** Those that lie side by side and lead the same way, from the kerb inwards. */
function groups(ends: readonly End[], drivesOn: 'left' | 'right'): ReadonlyMap<string, readonly End[]> {
  const abreast = new Groups(ends.length)
  if (ends.length > 0) {
    const index = new KDBush(ends.length)
    for (const { x, y } of ends) index.add(x, y)
    index.finish()
    ends.forEach((a, k) => {
      const widthM = a.lane.route.widthM || 3
      for (const j of index.within(a.x, a.y, ABREAST_WIDTHS * widthM)) {
        if (j <= k || Math.abs(wrapAngle(ends[j].rad - a.rad)) > ABREAST_RAD) continue
        abreast.put(k, j)
      }
    })
  }
  const lists = new Map<number, End[]>()
  ends.forEach((end, k) => {
    const list = lists.get(abreast.of(k))
    if (list) list.push(end)
    else lists.set(abreast.of(k), [end])
  })
  const kerb = drivesOn === 'left' ? 1 : -1
  const of = new Map<string, readonly End[]>()
  for (const list of lists.values()) {
    const { rad } = list[0]
    const left = (e: End) => -exact.sin(rad) * e.x + exact.cos(rad) * e.y
    list.sort((a, b) => kerb * (left(b) - left(a)) || (a.lane.id < b.lane.id ? -1 : 1))
    for (const end of list) of.set(end.lane.id, list)
  }
  return of
}

/** Which lane of an approach leads into which of an exit. Both are in order from the kerb inwards. */
function pairs(approach: readonly End[], exit: readonly End[], drivesOn: 'left' | 'right'): [End, End][] {
  const turnRad = wrapAngle(exit[0].rad - approach[0].rad)
  const toKerb = drivesOn === 'left' ? turnRad > 0 : turnRad < 0
  if (Math.abs(turnRad) >= THROUGH_RAD) {
    if (toKerb) return [[approach[0], exit[0]]]
    return [[approach[approach.length - 1], exit[exit.length - 1]]]
  }
  const [few, many] = approach.length <= exit.length ? [approach, exit] : [exit, approach]
  // Straight on each goes into the one opposite: they are shifted so that they move aside least.
  const { rad } = approach[0]
  const left = (e: End) => -exact.sin(rad) * e.x + exact.cos(rad) * e.y
  let best = 0
  let least = Infinity
  for (let shift = 0; shift + few.length <= many.length; shift++) {
    const aside = few.reduce((sum, e, k) => sum + Math.abs(left(e) - left(many[k + shift])), 0)
    if (aside < least - 1e-9) [best, least] = [shift, aside]
  }
  const through = few.map((e, k): [End, End] => (few === approach ? [e, many[k + best]] : [many[k + best], e]))
  // One that goes straight on with more lanes ahead may take those beside; with fewer, those left over merge.
  if (few === approach) {
    for (let k = few.length + best; k < many.length; k++) through.push([few[few.length - 1], many[k]])
    for (let k = 0; k < best; k++) through.push([few[0], many[k]])
  } else {
    for (let k = few.length + best; k < many.length; k++) through.push([many[k], few[few.length - 1]])
    for (let k = 0; k < best; k++) through.push([many[k], few[0]])
  }
  return through
}
