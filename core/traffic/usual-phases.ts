import { wrapAngle } from '@tidytrail/core/geometry'
import { phaseSchema, type Junction, type Phase } from '@tidytrail/core/level'
import { THROUGH_RAD } from './joins'
import { waysOf, type JunctionParts, type Way } from './junction'
import type { LaneNet } from './net'
import { websterPlan } from './signals'

/** What one lane lets through at green, vehicles an hour, and what is taken to come where nothing is known. */
const SATURATION_PER_H = 1900
export const UNKNOWN_PER_H = 450
/** Amber, seconds; then all see red for as long as the longest way across takes at this speed, metres a second. */
const AMBER_S = 3
const CLEARS_MPS = 9

/**
 * The usual stages: approaches that face each other have green together, who turns across among them gives way; an
 * approach nobody faces has a stage of its own. Lengths are those Webster (1958) gives for the flows.
 * @param flowPerH vehicles an hour that come along a lane, where that is known
 */
export function usualPhases(
  level: JunctionParts,
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
  const allRed = groups.map((group) =>
    Math.max(1, Math.ceil(Math.max(...group.map((w) => w.line.lengthM)) / CLEARS_MPS)),
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
  return groups.map((group, k) =>
    phaseSchema.parse({
      name: `Stage ${k + 1}`,
      greenS: Math.round(greenS[k]),
      amberS: AMBER_S,
      allRedS: allRed[k],
      linkIds: group.filter((w) => w.isLink).map((w) => w.id),
      laneIds: group.filter((w) => !w.isLink).map((w) => w.id),
    }),
  )
}
