import type { Conflict } from './conflicts'
import { admits, type Level } from '@tidytrail/core/level'
import { yieldIn, type JunctionParts, type Pair, type Way } from './junction'
import { tightestM } from './measured-line'
import { lanesBeside, mayChange, placeBeside } from './beside'
import type { LaneNet, NetLane } from './net'

/** A body that turns, and how it drives. Metres, seconds. */
export interface Turner {
  readonly lengthM: number
  readonly accelMps2: number
  /** What it does not go faster than while it turns. */
  readonly topMps: number
}

/** A stretch of a lane, or of a way between lanes, that is watched, metres along it. */
export interface WatchedStretch {
  /** The lane's or the way's id. */
  readonly id: string
  readonly isLane: boolean
  readonly fromM: number
  readonly toM: number
  /** From its end it is so far on to the conflict that is watched for. */
  readonly aheadM: number
  /** Is it of a lane beside, from which one may change over in time? Who drives is told by the lane it is on. */
  readonly beside?: true
}

/** It is looked and decided for so long before one sets off, seconds. */
export const REACTION_S = 1
/** So long has to lie between one that has left a conflict and another that comes to it, seconds. */
export const BETWEEN_S = 1
/** Where a lane has no limit, it is driven along at this speed, metres a second. */
export const UNLIMITED_MPS = 14

/** One waits so far before the conflict, metres. */
export const WAITS_BEFORE_M = 0.5

/** Where a way has to be waited that gives way: before the first of its conflicts with those it gives way to, metres along it. */
export const waitsAtM = (conflicts: readonly { readonly own: Conflict['a'] }[], standoffM = WAITS_BEFORE_M): number =>
  Math.max(0, Math.min(...conflicts.map((c) => c.own.fromM)) - standoffM)

/** Time from standing still at a line until the rear is out of a conflict so far ahead, seconds. */
export function clearsInS(toM: number, { lengthM, accelMps2: a, topMps }: Turner): number {
  const way = toM + lengthM
  const speedingM = (topMps * topMps) / (2 * a)
  return way <= speedingM ? Math.sqrt((2 * way) / a) : topMps / a + (way - speedingM) / topMps
}

/**
 * How far upstream of a conflict one has to see whoever comes, metres: what it drives while a body sets off at its line
 * and leaves the conflict, with the time to decide and to be apart (gap acceptance).
 */
export const watchNeededM = (toM: number, turner: Turner, approachMps: number): number =>
  approachMps * (REACTION_S + clearsInS(toM, turner) + BETWEEN_S)

/**
 * The stretches within so far upstream of where a conflict begins on a way: along the way itself, the lane it comes
 * from, and all that lead into that.
 * @param ownM where the conflict begins along the way
 */
export const watchedStretches = (net: LaneNet, way: Way, ownM: number, watchM: number): WatchedStretch[] =>
  way.isLink
    ? upstreamOf(net, { id: way.id, isLane: false }, ownM, watchM)
    : upstreamOf(net, { id: way.from, isLane: true }, way.fromM + ownM, watchM)

/** The stretches within so far upstream of a place of a lane, or of a way between lanes. @param ownM how far along it that is */
export function upstreamOf(
  net: LaneNet,
  on: { readonly id: string; readonly isLane: boolean },
  ownM: number,
  watchM: number,
): WatchedStretch[] {
  const found: WatchedStretch[] = []
  const seen = new Set<string>()
  const put = (id: string, isLane: boolean, endM: number, aheadM: number): number => {
    const fromM = Math.max(0, endM - (watchM - aheadM))
    if (endM > fromM) found.push({ id, isLane, fromM, toM: endM, aheadM })
    return aheadM + endM - fromM
  }
  const up = (laneId: string, endM: number, aheadM: number): void => {
    const lane = net.lanes.get(laneId)
    const key = `${laneId} ${endM}`
    if (!lane || aheadM >= watchM || seen.has(key)) return
    seen.add(key)
    const far = put(laneId, true, endM, aheadM)
    found.push(...besideStretches(net, lane, endM - (far - aheadM), endM, aheadM))
    // Those who come into it on the way lead there as well.
    for (const move of net.into.get(laneId) ?? []) {
      if (move.toM > endM + 1e-6) continue
      const from = aheadM + endM - move.toM
      if (from >= watchM) continue
      up(move.from, move.fromM, put(move.id, false, move.line.lengthM, from))
    }
    if (lane.closed && far < watchM) {
      // Once round, and no farther than where it began.
      const back = Math.min(watchM, far + lane.line.lengthM - endM)
      const fromM = lane.line.lengthM - (back - far)
      if (back > far) found.push({ id: laneId, isLane: true, fromM, toM: lane.line.lengthM, aheadM: far })
    }
  }
  const move = on.isLane ? undefined : net.moves.get(on.id)
  if (move) up(move.from, move.fromM, put(on.id, false, ownM, 0))
  else if (on.isLane) up(on.id, ownM, 0)
  return found
}

/** Who changes lanes so near before a conflict comes too late to be in it, metres. */
const CHANGES_IN_M = 16

/** The stretches of lanes beside a stretch of one from which it may still be changed into that. */
function besideStretches(net: LaneNet, lane: NetLane, fromM: number, toM: number, aheadM: number): WatchedStretch[] {
  const found: WatchedStretch[] = []
  for (const of of lanesBeside(net).get(lane.id) ?? []) {
    const other = net.lanes.get(of.id)!
    const back = of.side === 1 ? -1 : 1
    // As near to the conflict as one may change, and from there back.
    let last = Math.min(of.otherM.length - 1, Math.floor((toM - CHANGES_IN_M - of.fromM) / of.stepM))
    while (last > 0 && !mayChange(other, back, of.otherM[last - 1], of.otherM[last])) last--
    if (last <= 0) continue
    const endM = of.fromM + last * of.stepM
    const from = placeBeside(of, Math.max(of.fromM, fromM))
    if (from && from.otherM < of.otherM[last])
      found.push({
        id: of.id,
        isLane: true,
        fromM: from.otherM,
        toM: of.otherM[last],
        aheadM: aheadM + toM - endM,
        beside: true,
      })
  }
  return found
}

/** Nobody turns faster than this, metres a second, and nobody is known who speeds up more slowly, metres a second squared. */
const TURNS_MPS = 7
const USUAL_MPS2 = 1.5

interface Drivers {
  /** How slowly the slowest speeds up, metres a second squared. */
  readonly slowMps2: number
  readonly fastMps: number
  /** What the one that holds best takes in a bend, metres a second squared. */
  readonly gripMps2: number
}
const drivers = new WeakMap<Level['profiles'], Map<Level['routes'][string], Drivers>>()

/** How those may drive at most, and at least, who may drive along a lane. */
function driversOn({ profiles, routes }: Pick<Level, 'profiles' | 'routes'>, laneId: string): Drivers {
  const route = routes[laneId]
  let of = drivers.get(profiles)
  if (!of) drivers.set(profiles, (of = new Map()))
  let found = of.get(route)
  if (!found) {
    const may = Object.keys(profiles)
      .filter((id) => profiles[id].medium === 'wheels' && admits(route, id))
      .map((id) => profiles[id])
    found =
      may.length > 0
        ? {
            slowMps2: Math.min(...may.map((p) => p.accelMps2)),
            fastMps: Math.max(...may.flatMap((p) => Object.values(p.gaits))),
            gripMps2: Math.max(...may.map((p) => p.gripMps2 ?? p.accelMps2)),
          }
        : { slowMps2: USUAL_MPS2, fastMps: UNLIMITED_MPS, gripMps2: Infinity }
    of.set(route, found)
  }
  return found
}

/** How fast anybody comes along a lane, metres a second: no faster than is allowed, than it can, or than a round lets it. */
export function approachOn(level: JunctionParts, net: LaneNet, laneId: string): number {
  const lane = net.lanes.get(laneId)
  const { fastMps, gripMps2 } = driversOn(level, laneId)
  const bendMps = lane?.closed ? Math.sqrt(gripMps2 * tightestM(lane.line)) : Infinity
  return Math.min(lane?.route.speedLimitMps ?? Infinity, fastMps, bendMps)
}

/** Shorter by less than this is as good as enough, metres. */
const ENOUGH_M = 0.5

/** What is watched of another way before one goes, and why so far. Metres, seconds. */
export interface Watch {
  readonly needM: number
  /** As it was said, or as far as is needed. */
  readonly watchM: number
  readonly approachMps: number
  /** From standing still at the line until one is out of the way. */
  readonly clearsS: number
  /** Is it less than is needed? */
  readonly short: boolean
  readonly stretches: readonly WatchedStretch[]
}

/**
 * What one that gives way watches of another: as much as the slowest who may drive there needs at the speed that is
 * driven on the other, unless something else was said.
 * @param own until where the conflict leads along the own way @param otherM from where on it leads along the other
 */
export function watchFor(
  level: JunctionParts,
  net: LaneNet,
  own: Way,
  other: Way,
  toM: number,
  otherM: number,
  saidM: number | null = null,
): Watch {
  const turner = { lengthM: own.bodyM, accelMps2: driversOn(level, own.from).slowMps2, topMps: TURNS_MPS }
  const approachMps = approachOn(level, net, other.from)
  const needM = watchNeededM(toM, turner, approachMps)
  const watchM = saidM ?? needM
  const stretches = watchedStretches(net, other, otherM, watchM)
  return { needM, watchM, approachMps, clearsS: clearsInS(toM, turner), short: watchM < needM - ENOUGH_M, stretches }
}

/** What is watched for the sake of one pair of ways by the one that gives way: of its conflicts the one that needs most. */
export function watchOf(level: JunctionParts, net: LaneNet, pair: Pair): Watch | undefined {
  const waits = yieldIn(pair)
  if (!waits) return undefined
  const { own, other, watchM } = waits
  const isA = own.id === pair.a.id
  const all = pair.conflicts.map((c) => {
    const [mine, its] = isA ? [c.a, c.b] : [c.b, c.a]
    return watchFor(level, net, own, other, mine.toM, its.fromM, watchM)
  })
  return all.reduce<Watch | undefined>((most, w) => (most && most.needM >= w.needM ? most : w), undefined)
}
