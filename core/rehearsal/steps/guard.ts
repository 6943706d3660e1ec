import { distance2, type Point3 } from '@tidytrail/core/geometry'
import type { Engine } from '../engine'
import { hasArrived } from '../travel'
import { STATE } from '../world'
import { headFor, lookAgain, standUntil, timeIsUp } from './make-for'
import { AFRESH_S, pursue } from './pursue'
import { gaitedRow, placeFor, type StepEnd, type StepRow, type StepRun } from './step'

/** Out of sight for so long it comes back, seconds. */
const LOSES_S = 3
const [BACK, THERE, AFTER] = [0, 1, 2]

export const guard: StepRun<'guard'> = {
  kind: 'guard',
  compile: (context, step) => ({
    ...gaitedRow(step, context.profile),
    ...placeFor(context, step),
    radiusM: step.radiusM,
    forS: step.forS ?? 0,
  }),
  begin: (engine, n, row) => back(engine, n, row),
  update(engine, n, row) {
    const { world, t } = engine
    if (timeIsUp(engine, n, row)) return 'done'
    const place = placeOf(row)
    if (!place) return 'no-place'
    lookAgain(engine, n, row, AFRESH_S)
    const m = intruder(engine, n, row, place)
    if (m >= 0) {
      if (world.phase[n] !== AFTER) engine.log(n, 'goes-for', world.key[m])
      world.phase[n] = AFTER
      world.target[n] = world.key[m]
      engine.remember(n, m)
      return pursue(engine, n, row)
    }
    if (world.phase[n] === AFTER) {
      const seen: Point3 = [world.seenX[n], world.seenY[n], world.seenZ[n]]
      const gone = engine.slotOf(world.target[n]) < 0 || t - world.seenAt[n] > LOSES_S
      if (!gone && distance2(seen, place) <= row.radiusM) return pursue(engine, n, row)
      return back(engine, n, row)
    }
    if (world.phase[n] === BACK) {
      if (world.state[n] === STATE.walking && !hasArrived(engine, n)) return 'running'
      world.phase[n] = THERE
    }
    standUntil(engine, n, t + AFRESH_S, row.facingRad)
    return 'running'
  },
}

const placeOf = ({ place, area }: StepRow): Point3 | undefined => place ?? (area && [area.middle[0], area.middle[1], 0])

function back(engine: Engine, n: number, row: StepRow): StepEnd {
  const place = placeOf(row)
  if (!place) return 'no-place'
  engine.world.phase[n] = BACK
  lookAgain(engine, n, row, AFRESH_S)
  if (row.place) return headFor(engine, n, row, place)
  const near = engine.profileOf(n).planner.map.nearestReached(...place, 30)
  return near ? headFor(engine, n, row, near.at) : 'no-floor'
}

/** The nearest hostile one it perceives within its radius of its place; −1 for nobody. */
function intruder(engine: Engine, n: number, row: StepRow, place: Point3): number {
  const { world } = engine
  let best = Infinity
  let nearest = -1
  for (const [m] of engine.perceivedBy(n)) {
    if (engine.stance(n, m) !== 'hostile') continue
    const at: Point3 = [world.x[m], world.y[m], world.z[m]]
    if (distance2(at, place) > row.radiusM) continue
    const d = distance2(at, [world.x[n], world.y[n], 0])
    if (d < best) {
      best = d
      nearest = m
    }
  }
  return nearest
}
