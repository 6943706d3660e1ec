import type { Point3 } from '@tidytrail/core/geometry'
import type { Engine } from '../engine'
import { hasArrived, setSpot } from '../travel'
import { STATE } from '../world'
import { headFor, lookAgain } from './make-for'
import { gaitedRow, type StepEnd, type StepRow, type StepRun } from './step'

/** So near to what it boards it gets in, beside the room that takes, metres. */
const REACHES_M = 2.5

export const board: StepRun<'board'> = {
  kind: 'board',
  compile: ({ profile, registers }, step) => ({
    ...gaitedRow(step, profile),
    spawner: step.spawnerId === null ? -1 : registers.spawners.of(step.spawnerId),
  }),
  begin(engine, n, row) {
    if (row.spawner < 0) return 'no-vehicle'
    if (engine.world.rides[n] > 0) return 'done'
    const m = nearestFree(engine, n, row)
    if (m < 0) return 'no-vehicle'
    const { world } = engine
    const near = engine
      .profileOf(n)
      .planner.map.nearestReached(world.x[m], world.y[m], world.z[m], world.radius[m] + REACHES_M)
    if (!near) return 'end'
    world.target[n] = world.key[m]
    lookAgain(engine, n, row, 1)
    return headFor(engine, n, row, near.at, 0.3)
  },
  update(engine, n, row): StepEnd {
    const { world } = engine
    const m = engine.slotOf(world.target[n])
    // It has gone or somebody else has taken it: another is looked for.
    if (m < 0 || !isFree(engine, m)) return this.begin(engine, n, row)
    const reachM = world.radius[m] + world.radius[n] + REACHES_M
    const near = (world.x[m] - world.x[n]) ** 2 + (world.y[m] - world.y[n]) ** 2 <= reachM * reachM
    if (near && (hasArrived(engine, n) || world.state[n] !== STATE.walking || isBeside(engine, n, m))) {
      getIn(engine, n, m)
      return 'done'
    }
    lookAgain(engine, n, row, 0.3)
    if (world.state[n] === STATE.walking && !hasArrived(engine, n)) return 'running'
    return this.begin(engine, n, row)
  },
}

/** Is it as near as bodies let it? */
function isBeside({ world }: Engine, n: number, m: number): boolean {
  const room = world.radius[m] + world.radius[n] + 0.3
  return (world.x[m] - world.x[n]) ** 2 + (world.y[m] - world.y[n]) ** 2 <= room * room
}

/** Does a vehicle stand free: with nothing to do, or done with it? */
const isFree = (engine: Engine, m: number): boolean =>
  engine.world.speed[m] < 0.1 &&
  engine.world.rides[m] === 0 &&
  (engine.toldOf(m)?.steps.length === 0 || engine.world.state[m] === STATE.done)

function nearestFree(engine: Engine, n: number, { spawner }: StepRow): number {
  const { world } = engine
  let best = Infinity
  let nearest = -1
  for (let m = 0; m < world.count; m++) {
    if (m === n || world.key[m] === 0 || world.spawner[m] !== spawner || !isFree(engine, m)) continue
    const d = (world.x[m] - world.x[n]) ** 2 + (world.y[m] - world.y[n]) ** 2
    if (d < best) {
      best = d
      nearest = m
    }
  }
  return nearest
}

/** From now on it travels with the body of what it has boarded, which is nobody's any more. */
function getIn(engine: Engine, n: number, m: number): void {
  const { world } = engine
  engine.log(n, 'boarded', world.key[m])
  world.rides[n] = world.spawner[m] + 1
  world.ridesNumber[n] = world.number[m]
  world.profile[n] = world.profile[m]
  takePlace(engine, n, [world.x[m], world.y[m], world.z[m]])
  world.headX[n] = world.headX[m]
  world.headY[n] = world.headY[m]
  engine.log(m, 'left', 2)
  const member = engine.members.find((q) => q.key === world.key[m])
  if (member) member.leftS = engine.t
  world.free(m)
}

/** Puts an agent at a place, with the body it now has. */
export function takePlace(engine: Engine, n: number, at: Point3): void {
  const { world } = engine
  const { profile, planner } = engine.profileOf(n)
  world.radius[n] = profile.radiusM
  world.height[n] = profile.heightM
  ;[world.x[n], world.y[n], world.z[n]] = at
  world.vx[n] = world.vy[n] = world.vz[n] = world.speed[n] = world.yaw[n] = 0
  world.courses[n] = null
  world.spotTile[n] = -1
  const spot = planner.map.reachedAt(...at)
  if (spot) setSpot(engine, n, spot)
}
