import type { Point3 } from '@tidytrail/core/geometry'
import { hasArrived } from '../travel'
import { STATE } from '../world'
import { headFor, headInto, lookAgain, roundArea, standUntil, timeIsUp } from './make-for'
import { hasTarget } from './pursue'
import { gaitedRow, type StepRun } from './step'

/** How long it looks round at each place, seconds. */
const LOOKS_S = 1.5

export const search: StepRun<'search'> = {
  kind: 'search',
  compile: ({ profile }, step) => ({ ...gaitedRow(step, profile), radiusM: step.radiusM, forS: step.forS }),
  begin(engine, n, row) {
    const { world } = engine
    if (!hasTarget(engine, n)) return 'nobody'
    lookAgain(engine, n, row, Infinity)
    const place: Point3 = [world.seenX[n], world.seenY[n], world.seenZ[n]]
    const near = engine.profileOf(n).planner.map.nearestReached(...place, 3)
    return near ? headFor(engine, n, row, near.at) : 'end'
  },
  update(engine, n, row) {
    const { world, t } = engine
    if (timeIsUp(engine, n, row)) return 'done'
    if (world.state[n] === STATE.walking && !hasArrived(engine, n)) return 'running'
    if (world.state[n] === STATE.walking) standUntil(engine, n, t + LOOKS_S)
    else if (t + 1e-9 >= world.until[n]) {
      const round = roundArea(world.seenX[n], world.seenY[n], Math.max(0.5, row.radiusM))
      if (!headInto(engine, n, row, round)) standUntil(engine, n, t + LOOKS_S)
    }
    lookAgain(engine, n, row, Infinity)
    return 'running'
  },
}
