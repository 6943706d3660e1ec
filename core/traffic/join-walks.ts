import { boxOf, distance2, type Point3 } from '@tidytrail/core/geometry'
import KDBush from 'kdbush'
import { conflictsOf } from './conflicts'
import { drivenNear } from './driven-near'
import { measured, OVER_M } from './measured-line'
import type { LaneNet, NetLane } from './net'
import type { WalkNet } from './walk-net'

/** A way from the end of one lane for walking to the end of another that there could be: round a corner, mostly. */
export interface WalkSuggestion {
  readonly fromWaypointId: string
  readonly toWaypointId: string
  readonly gapM: number
}

/** An end is looked for so far about another, metres. */
const FAR_M = 30
/** Lanes count as at least so wide to either side, metres. */
const LEAST_M = 0.5
/** Half of the widest lane that is looked for, metres. */
const WIDEST_M = 25

/**
 * Ends of lanes for walking with the nearest end of another one each, where no lane that is driven along lies between:
 * pavements that meet at a corner. Ends from which there is a way on already are left as they are.
 */
export function suggestWalkJoins(walks: WalkNet, net: LaneNet): WalkSuggestion[] {
  const ends = [...walks.lanes.values()].flatMap((lane) => (lane.closed ? [] : endsOf(walks, lane)))
  const index = new KDBush(ends.length)
  for (const { at } of ends) index.add(at[0], at[1])
  index.finish()
  const pairs = ends.flatMap((a, i) =>
    index.within(a.at[0], a.at[1], FAR_M).flatMap((j) => {
      const b = ends[j]
      if (j <= i || a.laneId === b.laneId || Math.abs(a.at[2] - b.at[2]) > OVER_M) return []
      return [{ a, b, gapM: distance2(a.at, b.at) }]
    }),
  )
  pairs.sort((p, q) => p.gapM - q.gapM || (p.a.waypointId < q.a.waypointId ? -1 : 1))
  const near = drivenNear(net)
  const parted = (a: Point3, b: Point3): boolean => {
    const line = measured([a, b])
    return near(boxOf(line.places, WIDEST_M)).some(
      (d) => conflictsOf(line, d.line, Math.max(LEAST_M, d.widthM / 2)).length > 0,
    )
  }
  const taken = new Set<string>()
  return pairs.flatMap(({ a, b, gapM }) => {
    if (taken.has(a.waypointId) || taken.has(b.waypointId) || parted(a.at, b.at)) return []
    taken.add(a.waypointId).add(b.waypointId)
    return [{ fromWaypointId: a.waypointId, toWaypointId: b.waypointId, gapM }]
  })
}

interface End {
  readonly laneId: string
  readonly waypointId: string
  readonly at: Point3
}

/** The ends of a lane from which no way leads on. */
function endsOf({ nodes, ways, along }: WalkNet, lane: NetLane): End[] {
  const own = along.get(lane.id) ?? []
  const { places } = lane.line
  return [
    { node: own[0], waypointId: lane.startId, at: places[0] },
    { node: own[own.length - 1], waypointId: lane.endId, at: places[places.length - 1] },
  ].flatMap(({ node, waypointId, at }) =>
    ways[node].some(({ to }) => nodes[to].laneId !== lane.id) ? [] : [{ laneId: lane.id, waypointId, at }],
  )
}
