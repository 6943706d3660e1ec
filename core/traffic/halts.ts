import type { Halt } from '@tidytrail/core/level'
import type { LaneNet, NetLane } from './net'
import { upstreamOf, type WatchedStretch } from './watch'

/** Those who park move aside by so much for each metre ahead, and no faster than this, metres a second. */
export const PARKS_SLOPE = 0.6
export const PARKS_MPS = 2.5
/** Who parks keeps so far beside the edge of the lane, metres. */
const BESIDE_M = 0.2
/** Who wants to leave a place looks so far back for those who come, metres. */
const LOOKS_BACK_M = 80

/** The middles of the places of a halt, metres along its lane: of one on the lane its end. */
export function placesOf({ where, fromM, toM, placeM }: Halt, lengthM: number): number[] {
  const end = Math.min(toM, lengthM)
  if (end <= fromM) return []
  if (where === 'on') return [end]
  return Array.from({ length: Math.floor((end - fromM) / placeM + 1e-9) }, (_, k) => fromM + (k + 0.5) * placeM)
}

/** How far beside the middle of its lane somebody stands who is parked, metres, to the left when positive. */
export const parkedAsideM = ({ where }: Pick<Halt, 'where'>, laneM: number, radiusM: number): number =>
  where === 'on' ? 0 : (where === 'left' ? 1 : -1) * (laneM / 2 + radiusM + BESIDE_M)

/**
 * How long a parking place has to be for a body, metres: it comes in and leaves at a slant, and between those who stand
 * before and behind it there has to be room for its circle.
 */
export const placeNeedsM = (radiusM: number): number =>
  (2 * radiusM * Math.sqrt(1 + PARKS_SLOPE * PARKS_SLOPE)) / PARKS_SLOPE

/** Where it is looked, by those who leave the first place of a halt, whether anybody comes: upstream of the lane itself. */
export const watchedBefore = (net: LaneNet, lane: NetLane, { fromM }: Halt): WatchedStretch[] =>
  upstreamOf(net, { id: lane.id, isLane: true }, fromM, LOOKS_BACK_M).filter((s) => !s.beside && s.id !== lane.id)
