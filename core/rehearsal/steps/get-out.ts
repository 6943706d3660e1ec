import { exact, type Point3 } from '@tidytrail/core/geometry'
import type { Engine } from '../engine'
import { enter } from '../spawn'
import { isTaken } from '../spawning/room'
import { takePlace } from './board'
import { plainRow, type StepRun } from './step'

/** Directions round a vehicle in which it is looked for a place to get out at, and how far out. */
const WAYS = 16
const OUT_M = [0.1, 0.6, 1.5, 3]

export const getOut: StepRun<'get-out'> = {
  kind: 'get-out',
  compile: ({ profile }, step) => plainRow(step, profile.gaitMps),
  begin(engine, n) {
    const { world, scenario } = engine
    if (world.rides[n] === 0) return 'done'
    const own = engine.toldOf(n)?.profile ?? -1
    const row = scenario.profiles[own]
    const at = row && placeBeside(engine, n, own)
    if (!at) return 'no-floor'
    const vehicle = world.rides[n] - 1
    const number = world.ridesNumber[n]
    const variant = scenario.spawners[vehicle]?.variants.findIndex((v) => v.profile === world.profile[n]) ?? -1
    const stood: Point3 = [world.x[n], world.y[n], world.z[n]]
    const [headX, headY] = [world.headX[n], world.headY[n]]
    world.rides[n] = 0
    world.profile[n] = own
    takePlace(engine, n, at)
    engine.log(n, 'got-out')
    if (scenario.spawners[vehicle]) enter(engine, vehicle, number, Math.max(0, variant), stood, headX, headY)
    return 'done'
  },
  update: () => 'done',
}

/** A place beside what it has boarded where it can stand and nobody is. */
function placeBeside(engine: Engine, n: number, own: number): Point3 | undefined {
  const { world, scenario } = engine
  const { profile, planner } = scenario.profiles[own]!
  const { map } = planner
  for (const outM of OUT_M)
    for (let k = 0; k < WAYS; k++) {
      // The driver's side first, then round.
      const turn = exact.atan2(world.headY[n], world.headX[n]) + Math.PI / 2 + (k * 2 * Math.PI) / WAYS
      const far = world.radius[n] + profile.radiusM + outM
      const x = world.x[n] + far * exact.cos(turn)
      const y = world.y[n] + far * exact.sin(turn)
      const spot = map.reachedAt(x, y, world.z[n])
      if (!spot) continue
      const z = map.zOf(spot)
      const floor = map.floorAt(x, y, z)
      if (!floor || !map.isFree(floor, x, y)) continue
      if (!isTaken(engine, [x, y, z], profile.radiusM, profile.heightM)) return [x, y, z]
    }
  return undefined
}
