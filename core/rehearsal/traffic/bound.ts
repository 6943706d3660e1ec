import { wayTo } from '@tidytrail/core/traffic'
import type { Engine } from '../engine'
import type { Turn } from '../world'

/** Ways are as good as each other that take no more than this longer, seconds. */
const AS_GOOD_S = 0.5

/**
 * Of the ways that part at a stop of a lane those that lead soonest to the lane somebody is bound for; all of them where
 * it is bound for none, is on it, or none of them leads there.
 */
export function waysBound(
  { world, registers, scenario }: Engine,
  n: number,
  routeNumber: number,
  at: number,
  ways: readonly Turn[],
): readonly Turn[] {
  if (world.bound[n] === 0 || ways.length < 2) return ways
  const goal = registers.pieces.ids[world.bound[n] - 1]
  const { net } = scenario.traffic
  const laneId = registers.routes.ids[routeNumber]
  const lane = net.lanes.get(laneId)
  if (laneId === goal || !lane || !net.lanes.has(goal)) return ways
  const to = wayTo(net, goal)
  const takes = ways.map((w) => {
    if (w.piece !== undefined) return to.over(registers.pieces.ids[w.piece])
    return w.route === routeNumber ? to.along(laneId, lane.stopM[at]) : Infinity
  })
  const least = Math.min(...takes)
  return least === Infinity ? ways : ways.filter((_, k) => takes[k] <= least + AS_GOOD_S)
}
