/** What steps that lead to a place have in common: setting out for it, standing there, drawing one. */
import { exact, type Point3 } from '@tidytrail/core/geometry'
import type { Area } from '@tidytrail/core/level'
import { draw, USE } from '../chance'
import type { Engine } from '../engine'
import { causeOf, progress, setOut, wayTo } from '../travel'
import { STATE } from '../world'
import type { StepEnd, StepRow } from './step'

/** Arrival at a place that is no stop, metres. */
const ARRIVES_M = 0.5
/** So many places are drawn until one is found on a floor, and ways to so many of them are sought. */
const DRAWS = 64
const WAYS = 8
/** Of so many places the one nearest to somebody is taken, where that is wished. */
const CANDIDATES = 6

/** Sends an agent to a place. @param arrivesM how near counts as there */
export function headFor(engine: Engine, n: number, row: StepRow, place: Point3, arrivesM = ARRIVES_M): StepEnd {
  const way = wayTo(engine, n, place)
  if (!way.found) return causeOf(way)
  engine.world.arrivalM[n] = arrivesM
  engine.world.toStop[n] = -1
  setOut(engine, n, [{ line: way.line, uses: way.uses, gaitMps: row.gaitMps, stop: -1, extraS: 0 }], true)
  return 'running'
}

/** Lets it stand where it is until a time, facing somewhere if it is said. */
export function standUntil(engine: Engine, n: number, untilS: number, facingRad?: number): void {
  const { world } = engine
  world.state[n] = STATE.pausing
  world.toStop[n] = -1
  world.until[n] = untilS
  world.courses[n] = null
  world.faces[n] = facingRad === undefined ? 0 : 1
  if (facingRad !== undefined) {
    world.faceX[n] = exact.cos(facingRad)
    world.faceY[n] = exact.sin(facingRad)
  }
  progress(engine, n)
}

/** Lets it stand facing a place. */
export function standFacing(engine: Engine, n: number, untilS: number, x: number, y: number): void {
  const { world } = engine
  const dx = x - world.x[n]
  const dy = y - world.y[n]
  standUntil(engine, n, untilS, dx === 0 && dy === 0 ? undefined : exact.atan2(dy, dx))
}

export const luckOf = ({ seed, world }: Engine, n: number): number =>
  draw(seed, USE.wander, world.key[n], world.drawsWander[n]++)

/**
 * Sends an agent to a place in an area, drawn evenly over its floors, of several the nearest to somebody where that is
 * wished; undefined when none of those drawn can be got to.
 */
export function headInto(engine: Engine, n: number, row: StepRow, area: Area): 'running' | undefined {
  let ways = 0
  for (let k = 0; k < DRAWS && ways < WAYS; k++) {
    const place = row.spawner < 0 ? drawPlace(engine, n, area) : nearestDrawn(engine, n, row.spawner, area)
    if (!place) continue
    ways++
    if (headFor(engine, n, row, place) === 'running') return 'running'
  }
  return undefined
}

/** Of some places that are drawn the one nearest to whoever of a spawner is nearest to it. */
function nearestDrawn(engine: Engine, n: number, spawner: number, area: Area): Point3 | undefined {
  const { world } = engine
  let best = Infinity
  let nearest: Point3 | undefined
  for (let k = 0; k < CANDIDATES; k++) {
    const place = drawPlace(engine, n, area)
    if (!place) continue
    let far = 1e12
    for (let m = 0; m < world.count; m++)
      if (m !== n && world.key[m] !== 0 && world.spawner[m] === spawner)
        far = Math.min(far, (world.x[m] - place[0]) ** 2 + (world.y[m] - place[1]) ** 2)
    if (far >= best) continue
    best = far
    nearest = place
  }
  return nearest
}

/** A place in an area where the agent can be, and may; undefined when the one that was drawn is none. */
function drawPlace(engine: Engine, n: number, { box, holds }: Area): Point3 | undefined {
  const x = box.minX + luckOf(engine, n) * (box.maxX - box.minX)
  const y = box.minY + luckOf(engine, n) * (box.maxY - box.minY)
  const which = luckOf(engine, n)
  if (!holds(x, y)) return undefined
  const { map } = engine.profileOf(n).planner
  const faction = engine.toldOf(n)?.faction ?? null
  const floors = map
    .reachedFloors(x, y)
    .filter((f) => holds(x, y, map.zOf(f)) && !engine.keepsOut(faction, x, y, map.zOf(f)))
  const spot = floors[Math.floor(which * floors.length)]
  return spot && [x, y, map.zOf(spot)]
}

/** A round area about a place. */
export const roundArea = (cx: number, cy: number, radiusM: number): Area => ({
  box: { minX: cx - radiusM, minY: cy - radiusM, maxX: cx + radiusM, maxY: cy + radiusM },
  holds: (x, y) => (x - cx) ** 2 + (y - cy) ** 2 <= radiusM * radiusM,
  edgeM: (x, y) => Math.abs(exact.hypot(x - cx, y - cy) - radiusM),
  middle: [cx, cy],
})

/** Is its time over? */
export const timeIsUp = ({ world, t }: Engine, n: number, { forS }: StepRow): boolean =>
  forS > 0 && t + 1e-9 >= world.stepSince[n] + forS

/** When its time is over, seconds; 0 for never. */
export const timeEndsAt = ({ world }: Engine, n: number, { forS }: StepRow): number =>
  forS > 0 ? world.stepSince[n] + forS : 0

/** Lets it stand where it has come to for as long as its step says, drawn from between. */
export function standAWhile(engine: Engine, n: number, row: StepRow): void {
  const { minS, maxS } = row.pause
  engine.world.due[n] = timeEndsAt(engine, n, row)
  standUntil(engine, n, engine.t + (maxS > minS ? minS + luckOf(engine, n) * (maxS - minS) : minS))
}

/** Has it to be looked at again so soon, seconds; sooner where its time is over before. */
export function lookAgain({ world, t }: Engine, n: number, { forS }: StepRow, inS: number): void {
  const end = forS > 0 ? world.stepSince[n] + forS : Infinity
  world.due[n] = Math.min(end, t + inS)
}
