import type { Conflict } from './conflicts'
import type { Way } from './junction'
import type { LaneNet } from './net'

/** A body that turns, and how it drives. Metres, seconds. */
export interface Turner {
  readonly lengthM: number
  readonly accelMps2: number
  /** What it does not go faster than while it turns. */
  readonly topMps: number
}

/** A stretch of a lane that is watched, metres along it. */
export interface WatchedStretch {
  readonly laneId: string
  readonly fromM: number
  readonly toM: number
}

/** It is looked and decided for so long before one sets off, seconds. */
export const REACTION_S = 1
/** So long has to lie between one that has left a conflict and another that comes to it, seconds. */
export const BETWEEN_S = 1
/** Where a lane has no limit, it is driven along at this speed, metres a second. */
export const UNLIMITED_MPS = 14

/** Where a way has to be waited that gives way: before the first of its conflicts with those it gives way to, metres along it. */
export const waitsAtM = (conflicts: readonly { readonly own: Conflict['a'] }[], standoffM = 0.5): number =>
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
export function watchedStretches(net: LaneNet, way: Way, ownM: number, watchM: number): WatchedStretch[] {
  const found: WatchedStretch[] = []
  const seen = new Set<string>()
  const up = (laneId: string, endM: number, leftM: number): void => {
    const lane = net.lanes.get(laneId)
    const key = `${laneId} ${endM}`
    if (!lane || leftM <= 0 || seen.has(key)) return
    seen.add(key)
    const fromM = Math.max(0, endM - leftM)
    if (endM > fromM) found.push({ laneId, fromM, toM: endM })
    const more = leftM - (endM - fromM)
    if (fromM > 0 || more <= 0) return
    if (lane.closed) return up(laneId, lane.line.lengthM, Math.min(more, lane.line.lengthM - endM))
    for (const move of net.into.get(laneId) ?? [])
      if (move.toM <= endM) up(move.from, move.fromM, more - move.line.lengthM)
  }
  up(way.from, way.isLink ? way.fromM : way.fromM + ownM, watchM - (way.isLink ? ownM : 0))
  return found
}
