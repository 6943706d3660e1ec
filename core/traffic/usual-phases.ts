import { wrapAngle } from '@tidytrail/core/geometry'
import { phaseSchema, type Junction, type Level, type Phase } from '@tidytrail/core/level'
import { THROUGH_RAD } from './joins'
import { hasGreen, waysOf, type JunctionParts, type Way } from './junction'
import { crossingsAt, redBeforeM, STRAIGHT_RAD, walkS, type CrossingAt } from './lit-crossings'
import type { LaneNet } from './net'
import { websterPlan } from './signals'
import { walkedLanes } from './walk-net'

/** What one lane lets through at green, vehicles an hour, and what is taken to come where nothing is known. */
const SATURATION_PER_H = 1900
export const UNKNOWN_PER_H = 450
/** Amber, seconds; then all see red for as long as the longest way across takes at this speed, metres a second. */
const AMBER_S = 3
const CLEARS_MPS = 9
/** Those who walk have green for so long at least, and may set out for so long of it, seconds; all is red behind their own stage. */
const LEAST_WALK_S = 5
const SETS_OUT_S = 4
const WALKERS_CLEAR_S = 3

type Parts = JunctionParts & Pick<Level, 'waypoints'>

/**
 * The usual stages: approaches that face each other have green together, who turns across among them gives way; an
 * approach nobody faces has a stage of its own. Those who walk have green in the stages in which nobody goes straight on
 * over them, long enough to get over; where there is no such stage, in one of their own. Lengths are those Webster (1958) gives for the flows.
 * @param flowPerH vehicles an hour that come along a lane, where that is known
 */
export function usualPhases(
  level: Parts,
  net: LaneNet,
  junction: Junction,
  flowPerH: (laneId: string) => number | undefined = () => undefined,
): Phase[] {
  const groups: Way[][] = []
  for (const way of waysOf(level, net, junction)) {
    const same = groups.find(([first]) => {
      const off = Math.abs(wrapAngle(way.inRad - first.inRad))
      return off < THROUGH_RAD || off > Math.PI - THROUGH_RAD
    })
    if (same) same.push(way)
    else groups.push([way])
  }
  if (groups.length === 0) return []
  const crossings = crossingsAt(level, net, walkedLanes(level), junction)
  const allRed = groups.map((group) =>
    Math.max(1, Math.ceil(Math.max(...group.map((w) => w.line.lengthM + redBeforeM(w, crossings))) / CLEARS_MPS)),
  )
  const demands = groups.flatMap((group, phase) =>
    [...new Set(group.map((w) => w.from))].map((laneId) => ({
      phase,
      flowPerH: flowPerH(laneId) ?? UNKNOWN_PER_H,
      saturationPerH: SATURATION_PER_H,
    })),
  )
  const { greenS } = websterPlan(
    demands,
    allRed.map((s) => AMBER_S + s),
  )
  const stages = groups.map((group, k) =>
    phaseSchema.parse({
      name: `Stage ${k + 1}`,
      greenS: Math.round(greenS[k]),
      amberS: AMBER_S,
      allRedS: allRed[k],
      linkIds: group.filter((w) => w.isLink).map((w) => w.id),
      laneIds: group.filter((w) => !w.isLink).map((w) => w.id),
    }),
  )
  return withWalkers(stages, crossings)
}

/** Stages in which those who walk have green too. A lane that leads over several crossings has green over all of them or none. */
function withWalkers(stages: readonly Phase[], crossings: readonly CrossingAt[]): Phase[] {
  const alone: CrossingAt[] = []
  const made = stages.map((s) => ({ ...s, laneIds: [...s.laneIds] }))
  for (const laneId of new Set(crossings.map((at) => at.crossing.laneId))) {
    const own = crossings.filter((at) => at.crossing.laneId === laneId)
    const fit = made.filter((stage) => own.every((at) => straightOver(stage, at).length === 0))
    if (fit.length === 0) alone.push(...own)
    for (const stage of fit) {
      stage.laneIds.push(laneId)
      stage.greenS = Math.max(stage.greenS, greenFor(own, stage))
    }
  }
  if (alone.length === 0) return made
  const between = { amberS: 0, allRedS: WALKERS_CLEAR_S }
  const laneIds = [...new Set(alone.map((a) => a.crossing.laneId))]
  return [...made, phaseSchema.parse({ name: 'Walkers', greenS: greenFor(alone, between), ...between, laneIds })]
}

/** Green so long that everybody who sets out as it begins gets over, in whole seconds. */
const greenFor = (crossings: readonly CrossingAt[], { amberS, allRedS }: Pick<Phase, 'amberS' | 'allRedS'>): number =>
  Math.max(LEAST_WALK_S, ...crossings.map(({ crossing }) => Math.ceil(walkS(crossing) + SETS_OUT_S - amberS - allRedS)))

/** The ways that lead straight on over a crossing with green in a stage. */
export const straightOver = (stage: Phase, { ways }: CrossingAt): Way[] =>
  ways.flatMap(({ way }) => (hasGreen(stage, way) && Math.abs(way.turnRad) < STRAIGHT_RAD ? [way] : []))
