import { distance2, type Point3 } from '@tidytrail/core/geometry'
import { conflictsOf } from './conflicts'
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

/**
 * Ends of lanes for walking with the nearest end of another one each, where no lane that is driven along lies between:
 * pavements that meet at a corner. Ends from which there is a way on already are left as they are.
 */
export function suggestWalkJoins(walks: WalkNet, net: LaneNet): WalkSuggestion[] {
  const ends = [...walks.lanes.values()].flatMap((lane) => (lane.closed ? [] : endsOf(walks, lane)))
  const driven = [
    ...[...net.lanes.values()].map(({ line, route }) => ({ line, apartM: route.widthM / 2 })),
    ...[...net.moves.values()].map(({ line, widthM }) => ({ line, apartM: widthM / 2 })),
  ]
  const pairs = ends.flatMap((a, i) =>
    ends.slice(i + 1).flatMap((b) => {
      const gapM = distance2(a.at, b.at)
      if (a.laneId === b.laneId || gapM > FAR_M || Math.abs(a.at[2] - b.at[2]) > OVER_M) return []
      const line = measured([a.at, b.at])
      return driven.some((d) => conflictsOf(line, d.line, Math.max(LEAST_M, d.apartM)).length > 0)
        ? []
        : [{ a, b, gapM }]
    }),
  )
  pairs.sort((p, q) => p.gapM - q.gapM)
  const taken = new Set<string>()
  return pairs.flatMap(({ a, b, gapM }) => {
    if (taken.has(a.waypointId) || taken.has(b.waypointId)) return []
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
