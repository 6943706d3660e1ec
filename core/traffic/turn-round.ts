import { distance2, wrapAngle } from '@tidytrail/core/geometry'
import { admits, type Level } from '@tidytrail/core/level'
import type { LaneNet, NetLane } from './net'

/** The lane that leads back begins so near to the end, metres, and leads back by so much of half a turn, radians. */
const NEAR_M = 20
const BACK_RAD = 2.5
/** A turning circle is wider than the worst turner needs by this, and no smaller than this, metres. */
const WIDER = 1.1
const LEAST_M = 4

/** The lane into which those who come to the end of one can turn round: that of its road, or else the nearest. */
export function turnsRoundInto({ lanes, out }: LaneNet, laneId: string): NetLane | undefined {
  const lane = lanes.get(laneId)
  if (!lane || lane.closed || (out.get(laneId)?.length ?? 0) > 0) return undefined
  const end = lane.line.places[lane.line.places.length - 1]
  let best: { lane: NetLane; far: number } | undefined
  for (const other of lanes.values()) {
    if (other === lane || other.closed) continue
    const far = distance2(other.line.places[0], end)
    if (far > NEAR_M || Math.abs(wrapAngle(other.startRad - lane.endRad)) < BACK_RAD) continue
    const own = (l: NetLane) => (lane.roadId !== undefined && l.roadId === lane.roadId ? 0 : 1)
    if (!best || own(other) < own(best.lane) || (own(other) === own(best.lane) && far < best.far))
      best = { lane: other, far }
  }
  return best?.lane
}

/** How wide a turning circle from one lane into another has to be for whoever may drive along both, metres. */
export function turnNeedsM(
  { routes, profiles }: Pick<Level, 'routes' | 'profiles'>,
  laneIds: readonly string[],
): number {
  let most = LEAST_M
  for (const [id, { medium, turnM }] of Object.entries(profiles))
    if (medium === 'wheels' && laneIds.every((l) => admits(routes[l], id))) most = Math.max(most, turnM * WIDER)
  return Math.ceil(most * 10) / 10
}
