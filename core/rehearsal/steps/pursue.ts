import type { Engine } from '../engine'
import { hasArrived } from '../travel'
import { STATE } from '../world'
import { headFor, standFacing } from './make-for'
import type { StepEnd, StepRow } from './step'

/** How near to whom it goes after it keeps, beside the room both take, metres. */
const KEEPS_M = 0.6
/** The way is planned anew so often, seconds. */
export const AFRESH_S = 0.4

/** Goes after whoever it has in mind, to where they were perceived last; stands there facing them when it has come up to them. */
export function pursue(engine: Engine, n: number, row: StepRow): StepEnd {
  const { world, t } = engine
  const [x, y, z] = [world.seenX[n], world.seenY[n], world.seenZ[n]]
  const m = engine.slotOf(world.target[n])
  const dx = x - world.x[n]
  const dy = y - world.y[n]
  // Where it has to keep out it waits for them, looking their way.
  if (engine.keepsOut(engine.toldOf(n)?.faction ?? null, x, y, z)) {
    standFacing(engine, n, t + AFRESH_S, x, y)
    return 'running'
  }
  const room = KEEPS_M + world.radius[n] + (m >= 0 ? world.radius[m] : 0)
  if (dx * dx + dy * dy <= room * room) {
    standFacing(engine, n, t + AFRESH_S, x, y)
    return 'running'
  }
  const course = world.courses[n]
  if (world.state[n] === STATE.walking && course) {
    if (hasArrived(engine, n)) {
      standFacing(engine, n, t + AFRESH_S, x, y)
      return 'running'
    }
    // Its way still leads to where they are.
    const k = course.count - 1
    if ((course.x[k] - x) ** 2 + (course.y[k] - y) ** 2 < 0.3 * 0.3) return 'running'
  }
  const near = engine.profileOf(n).planner.map.nearestReached(x, y, z, 3)
  if (!near) return 'end'
  return headFor(engine, n, row, near.at, 0.3)
}

/** Has it whom it has in mind? */
export const hasTarget = ({ world }: Engine, n: number): boolean => world.target[n] > 0
