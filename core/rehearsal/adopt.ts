import type { Engine } from './engine'
import { rowAt } from './forks'
import { sameStep, type Scenario, type SpawnRow } from './scenario'
import { leave } from './leave'
import { stepAt } from './steps/list'
import { setSpot, spotOf } from './travel'
import { STATE } from './world'

/**
 * Takes an edited level in. Who is told the same as before, with the same body over the same reach, goes on undisturbed;
 * the others go on from where they stand with what they are told now, and an event says so.
 */
export function adopt(engine: Engine, next: Scenario, reachChanged: (profile: number) => boolean): void {
  const before = engine.scenario
  const { world } = engine
  engine.scenario = next
  engine.makeRoom()
  for (let n = 0; n < world.count; n++) {
    if (world.key[n] === 0) continue
    const k = world.spawner[n]
    const [was, is] = [before.spawners[k], next.spawners[k]]
    const told = is && (is.variants[world.variant[n]] ?? is.variants[0])
    // Who has boarded something has the body of that.
    const body = world.rides[n] > 0 ? world.profile[n] : (told?.profile ?? world.profile[n])
    const row = next.profiles[body]
    if (!told || !row) {
      // Who is no longer in the level is gone.
      leave(engine, n, false)
      continue
    }
    const profileChanged = before.profiles[world.profile[n]] !== row
    const moved = profileChanged || reachChanged(world.profile[n])
    if (profileChanged) {
      world.profile[n] = body
      world.radius[n] = row.profile.radiusM
      world.height[n] = row.profile.heightM
    }
    if (moved) stand(engine, n)
    const rowIn = (scenario: Scenario, spawner: SpawnRow | undefined) => {
      const variant = spawner?.variants[world.variant[n]] ?? spawner?.variants[0]
      const step = stepAt(variant, world.within[n], world.step[n], world.choice[n])
      return rowAt(scenario, engine.registers, step, world.route[n])
    }
    const [then, now] = [rowIn(before, was), rowIn(next, is)]
    const same = then === now || (then && now && sameStep(then, now))
    if (same && !moved) continue
    if (same && world.state[n] !== STATE.walking && world.state[n] !== STATE.blocked) continue
    carryOver(engine, n, then?.routeId === now?.routeId)
  }
}

/** Finds the floor an agent stands on in a reach that has changed. */
function stand(engine: Engine, n: number): void {
  const { world } = engine
  const { map } = engine.profileOf(n).planner
  const spot = map.reachedAt(world.x[n], world.y[n], world.z[n])
  if (!spot) {
    // Something was put where it stands: it gets out to the nearest place it can stand at.
    const near = map.nearestReached(world.x[n], world.y[n], world.z[n], 3)
    world.spotTile[n] = -1
    if (!near) return
    ;[world.x[n], world.y[n], world.z[n]] = near.at
    world.vx[n] = world.vy[n] = world.speed[n] = 0
    setSpot(engine, n, near.spot)
    return
  }
  setSpot(engine, n, spot)
}

/** Goes on with what it is told now: the same stop where it was following the same route, otherwise its step from the start. */
function carryOver(engine: Engine, n: number, sameRoute: boolean): void {
  const { world, t } = engine
  const row = engine.rowOf(n)
  engine.log(n, 'carried-over')
  world.courses[n] = null
  if (!spotOf(engine, n)) {
    world.state[n] = STATE.blocked
    world.failed[n] = 1
    world.until[n] = t + 2
    return
  }
  const at = world.toStop[n]
  if (row?.route && sameRoute && at >= 0 && at < row.stops.length) {
    if (world.fromStop[n] >= row.stops.length) world.fromStop[n] = -1
    // As if a way had just opened: the leg is planned anew from here at the next step.
    if (world.state[n] !== STATE.pausing) {
      world.state[n] = STATE.blocked
      world.until[n] = t
    }
    return
  }
  world.failed[n] = 0
  if (!row) world.within[n] = 0
  world.step[n] = row ? world.step[n] - 1 : -1
  world.state[n] = STATE.idle
}
