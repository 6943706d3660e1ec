import type { Engine } from '../engine'
import { hasArrived } from '../travel'
import { STATE } from '../world'
import { headFor, lookAgain, luckOf, standFacing } from './make-for'
import { gaitedRow, placeFor, type StepEnd, type StepRow, type StepRun } from './step'

/** From so near an object is used, and so near those who wait for it stand, metres. */
const REACHES_M = 0.4
const NEAR_M = 2.5
/** So far above or below is another floor, metres. */
const FLOOR_M = 1.5
const LOOKS_S = 0.3
/** How it stands with the object: on the way, waiting near it, going up to it, using it. */
const [GOES, WAITS, GOES_UP, USES] = [0, 1, 2, 3]

export const useObject: StepRun<'use-object'> = {
  kind: 'use-object',
  compile: (context, step) => ({
    ...gaitedRow(step, context.profile),
    ...placeFor(context, step),
    pause: step.use,
    limitS: step.waitS ?? 0,
  }),
  begin(engine, n, row) {
    if (!row.place) return 'no-place'
    lookAgain(engine, n, row, LOOKS_S)
    return headFor(engine, n, row, row.place, REACHES_M)
  },
  update(engine, n, row): StepEnd {
    const { world, t } = engine
    if (!row.place) return 'no-place'
    if (world.phase[n] === USES) return t + 1e-9 >= world.until[n] ? 'done' : 'running'
    lookAgain(engine, n, row, LOOKS_S)
    if (world.phase[n] === GOES) {
      if (!isNear(engine, n, row)) return 'running'
      enter(engine, n, WAITS)
      if (isTaken(engine, n, row)) standFacing(engine, n, t + LOOKS_S, row.place[0], row.place[1])
    }
    if (world.phase[n] === WAITS) {
      if (isTaken(engine, n, row)) {
        if (row.limitS > 0 && t - world.phaseSince[n] >= row.limitS) return 'taken'
        if (world.state[n] === STATE.pausing) world.until[n] = t + LOOKS_S
        return 'running'
      }
      enter(engine, n, GOES_UP)
      if (world.state[n] !== STATE.walking) return headFor(engine, n, row, row.place, REACHES_M)
    }
    if (world.state[n] === STATE.walking && !hasArrived(engine, n)) return 'running'
    enter(engine, n, USES)
    const { minS, maxS } = row.pause
    const until = t + (maxS > minS ? minS + luckOf(engine, n) * (maxS - minS) : minS)
    engine.log(n, 'uses')
    standFacing(engine, n, until, row.place[0], row.place[1])
    world.due[n] = until
    return 'running'
  },
}

function enter({ world, t }: Engine, n: number, phase: number): void {
  world.phase[n] = phase
  world.phaseSince[n] = t
}

function isNear({ world }: Engine, n: number, { place }: StepRow): boolean {
  const [x, y, z] = place!
  return (
    (world.x[n] - x) ** 2 + (world.y[n] - y) ** 2 <= (NEAR_M + world.radius[n]) ** 2 &&
    Math.abs(world.z[n] - z) <= FLOOR_M
  )
}

/** Does another use it or go up to it, or has one waited for it longer? */
function isTaken(engine: Engine, n: number, { place }: StepRow): boolean {
  const { world } = engine
  for (let m = 0; m < world.count; m++) {
    if (m === n || world.key[m] === 0 || world.phase[m] < WAITS) continue
    const other = engine.rowOf(m)
    if (other?.kind !== 'use-object' || other.place !== place) continue
    if (world.phase[m] > WAITS) return true
    const longer = world.phaseSince[m] - world.phaseSince[n]
    if (longer < 0 || (longer === 0 && world.key[m] < world.key[n])) return true
  }
  return false
}
