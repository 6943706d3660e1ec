import { exact, type Point3 } from '@tidytrail/core/geometry'
import type { Engine } from '../engine'
import { STATE } from '../world'
import { headFor, lookAgain, standFacing, timeIsUp } from './make-for'
import { AFRESH_S, hasTarget } from './pursue'
import { gaitedRow, type StepEnd, type StepRow, type StepRun } from './step'

export const shadow: StepRun<'shadow'> = {
  kind: 'shadow',
  compile: ({ profile, registers }, step) => ({
    ...gaitedRow(step, profile),
    spawner: step.spawnerId === null ? -1 : registers.spawners.of(step.spawnerId),
    // The two the wrong way round mean the same.
    nearM: Math.min(step.nearM, step.farM),
    farM: Math.max(step.nearM, step.farM),
    forS: step.forS ?? 0,
  }),
  begin(engine, n, row) {
    const m = whom(engine, n, row)
    return m < 0 ? (row.spawner >= 0 || hasTarget(engine, n) ? 'target-gone' : 'nobody') : keep(engine, n, row, m)
  },
  update(engine, n, row) {
    if (timeIsUp(engine, n, row)) return 'done'
    const m = whom(engine, n, row)
    return m < 0 ? 'target-gone' : keep(engine, n, row, m)
  },
}

/** The slot of whom it keeps at a distance from: the nearest the spawner has sent, or whom it has in mind; −1 for nobody. */
function whom(engine: Engine, n: number, { spawner }: StepRow): number {
  const { world } = engine
  if (spawner < 0) return engine.slotOf(world.target[n])
  const now = engine.slotOf(world.target[n])
  if (now >= 0 && world.spawner[now] === spawner) return now
  let best = Infinity
  let nearest = -1
  for (let m = 0; m < world.count; m++) {
    if (m === n || world.key[m] === 0 || world.spawner[m] !== spawner) continue
    const d = (world.x[m] - world.x[n]) ** 2 + (world.y[m] - world.y[n]) ** 2
    if (d < best) {
      best = d
      nearest = m
    }
  }
  if (nearest >= 0) world.target[n] = world.key[nearest]
  return nearest
}

/** Comes up when it is too far off, goes away when it is too near, and stands in between: between the two it goes on with what it was doing. */
function keep(engine: Engine, n: number, row: StepRow, m: number): StepEnd {
  const { world, t } = engine
  const dx = world.x[m] - world.x[n]
  const dy = world.y[m] - world.y[n]
  const d = exact.hypot(dx, dy)
  const midM = (row.nearM + row.farM) / 2
  const walking = world.state[n] === STATE.walking
  lookAgain(engine, n, row, AFRESH_S)
  const { map } = engine.profileOf(n).planner
  if (d > row.farM || (walking && world.phase[n] === 1 && d > midM)) {
    world.phase[n] = 1
    const near = map.nearestReached(world.x[m], world.y[m], world.z[m], 4)
    return near ? headFor(engine, n, row, near.at, midM) : 'end'
  }
  if (d < row.nearM || (walking && world.phase[n] === 2 && d < midM)) {
    const awayM = midM - d + 0.5
    const k = d > 1e-6 ? awayM / d : 0
    const to: Point3 = [world.x[n] - dx * k, world.y[n] - dy * k, world.z[n]]
    const near = map.nearestReached(...to, 2)
    // Its back to a wall it stands.
    if (near && headFor(engine, n, row, near.at) === 'running') {
      world.phase[n] = 2
      return 'running'
    }
  }
  world.phase[n] = 0
  standFacing(engine, n, t + AFRESH_S, world.x[m], world.y[m])
  return 'running'
}
