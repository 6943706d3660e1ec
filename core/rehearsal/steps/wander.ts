import { boxOf, ringHolds, type Point3 } from '@tidytrail/core/geometry'
import { draw, USE } from '../chance'
import type { Engine } from '../engine'
import { hasArrived, progress, setOut, wayTo } from '../travel'
import { STATE } from '../world'
import { gaitOf, plainRow, type StepEnd, type StepRow, type StepRun } from './step'

/** Arrival at a place of a zone, metres. */
const ARRIVES_M = 0.5
/** So many places are drawn until one is found on a floor, and ways to so many of them are sought. */
const DRAWS = 64
const WAYS = 8

export const wander: StepRun<'wander'> = {
  kind: 'wander',
  compile: (level, step, profile) => ({
    ...plainRow('wander', gaitOf(profile, step.gait)),
    lacksGait: step.gait !== null && profile.profile.gaits[step.gait] === undefined,
    ring: step.zoneId === null ? undefined : level.zones[step.zoneId]?.ring,
    pause: step.pause,
    limitS: step.limitS,
    forS: step.forS ?? 0,
  }),
  begin: (engine, n, row) => (row.ring ? toAnother(engine, n, row) : 'no-zone'),
  update(engine, n, row) {
    const { world, t } = engine
    if (!row.ring) return 'no-zone'
    if (row.forS > 0 && t + 1e-9 >= world.stepSince[n] + row.forS) return 'done'
    if (world.state[n] === STATE.walking) {
      if (hasArrived(engine, n)) return stand(engine, n, row)
      return t + 1e-9 >= world.legSince[n] + row.limitS ? toAnother(engine, n, row) : 'running'
    }
    return t + 1e-9 >= world.until[n] ? toAnother(engine, n, row) : 'running'
  },
}

const luck = ({ seed, world }: Engine, n: number) => draw(seed, USE.wander, world.key[n], world.drawsWander[n]++)

/** When it is over and done, seconds; 0 for never. */
const endOf = ({ world }: Engine, n: number, { forS }: StepRow) => (forS > 0 ? world.stepSince[n] + forS : 0)

/** Stands where it is for a while. */
function stand(engine: Engine, n: number, row: StepRow): StepEnd {
  const { world, t } = engine
  const { minS, maxS } = row.pause
  world.due[n] = endOf(engine, n, row)
  world.state[n] = STATE.pausing
  world.toStop[n] = -1
  world.until[n] = t + (maxS > minS ? minS + luck(engine, n) * (maxS - minS) : minS)
  progress(engine, n)
  return 'running'
}

/** Sets out to another place of the zone, drawn evenly over its floors. */
function toAnother(engine: Engine, n: number, row: StepRow): StepEnd {
  const { world } = engine
  let ways = 0
  for (let k = 0; k < DRAWS && ways < WAYS; k++) {
    const place = drawPlace(engine, n, row.ring!)
    if (!place) continue
    const way = wayTo(engine, n, place)
    ways++
    if (!way.found) continue
    world.arrivalM[n] = ARRIVES_M
    world.toStop[n] = -1
    const end = endOf(engine, n, row)
    const limit = engine.t + row.limitS
    world.due[n] = end > 0 ? Math.min(end, limit) : limit
    setOut(engine, n, [{ line: way.line, uses: way.uses, gaitMps: row.gaitMps, stop: -1, extraS: 0 }], true)
    return 'running'
  }
  return 'no-floor'
}

/** A place in a ring where the agent can be; undefined when the one that was drawn is none. */
function drawPlace(engine: Engine, n: number, ring: readonly (readonly [number, number])[]): Point3 | undefined {
  const box = boxOf(ring)
  const x = box.minX + luck(engine, n) * (box.maxX - box.minX)
  const y = box.minY + luck(engine, n) * (box.maxY - box.minY)
  const which = luck(engine, n)
  if (!ringHolds(ring, x, y)) return undefined
  const { map } = engine.profileOf(n).planner
  const floors = map.reachedFloors(x, y)
  const spot = floors[Math.floor(which * floors.length)]
  return spot && [x, y, map.zOf(spot)]
}
