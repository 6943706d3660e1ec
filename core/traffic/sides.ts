import { distance2, toMillimetre, wrapAngle, type Point3 } from '@tidytrail/core/geometry'
import type { Level } from '@tidytrail/core/level'
import { directionAt, nearestOnLine, placeAt } from './measured-line'
import type { LaneNet, NetLane } from './net'

/** A lane that comes against one lies within so many widths of it. */
const BESIDE_WIDTHS = 2
const AGAINST_RAD = 2.6

/**
 * Where the waypoints of lanes of no road are when one drives on the other side: of two that lead against each other
 * side by side each takes the place of the other and goes on leading where it did. Lanes by themselves stay.
 */
export function sidesSwapped(net: LaneNet, waypoints: Level['waypoints']): Record<string, [number, number, number]> {
  const free = [...net.lanes.values()].filter((lane) => lane.roadId === undefined && !lane.closed)
  const moves: Record<string, [number, number, number]> = {}
  for (const lane of free) {
    const other = opposite(lane, free)
    if (!other) continue
    for (const stopId of lane.route.order) {
      const { waypointId } = lane.route.stops[stopId]
      const at = waypoints[waypointId]?.at
      const near = at && nearestOn(other, at)
      if (near) moves[waypointId] = [toMillimetre(near[0]), toMillimetre(near[1]), toMillimetre(near[2])]
    }
  }
  return moves
}

/** The lane that leads against one beside it, all along. */
function opposite(lane: NetLane, all: readonly NetLane[]): NetLane | undefined {
  const within = BESIDE_WIDTHS * (lane.route.widthM || 3)
  const at = [0.1, 0.5, 0.9].map((share) => ({
    place: placeAt(lane.line, share * lane.line.lengthM),
    rad: directionAt(lane.line, share * lane.line.lengthM),
  }))
  return all.find((other) => {
    if (other === lane) return false
    return at.every(({ place, rad }) => {
      const m = nearestM(other, place)
      const near = placeAt(other.line, m)
      return distance2(place, near) < within && Math.abs(wrapAngle(directionAt(other.line, m) - rad)) > AGAINST_RAD
    })
  })
}

const nearestOn = (lane: NetLane, place: Point3): Point3 => placeAt(lane.line, nearestM(lane, place))

/** How far along a lane the place nearest to another is, metres. */
export const nearestM = ({ line }: NetLane, place: Point3): number => nearestOnLine(line, place).m
