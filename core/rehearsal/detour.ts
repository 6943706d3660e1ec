import type { Point3 } from '@tidytrail/core/geometry'
import { goesFirst, WIDEST_M } from './avoid'
import { LIMIT } from './events'
import type { Engine } from './engine'
import { here, spotOf } from './travel'
import { standsAt, STATE } from './world'

/** Room left beside whom one goes round, metres. */
const ROOM_M = 0.25
/** The corners of the way round, as directions from whom one goes round: 1, 0 is straight beyond it. */
const CORNERS = [
  [-Math.SQRT1_2, Math.SQRT1_2],
  [0, 1],
  [Math.SQRT1_2, Math.SQRT1_2],
] as const
/** A chord between two corners comes this much nearer than they are. */
const CHORD = 1.09
/** Slower than this one stands, metres a second. */
const STANDS_MPS = 0.05

/** How wide a way round is tried, in multiples of the narrowest: others may stand beside the first. */
const WIDER = [1, 1.8, 3]
/** What steers cuts its corners, and goes round wider. */
const STEERING = 1.7

/**
 * A way past somebody who stands in one's way, on the side nearer to where one is going, or else on the other: its
 * corners, the first being where one is. Undefined when nobody stands there, or there is no room on either side.
 */
export function wayRound(engine: Engine, n: number, goal: Point3): Point3[] | undefined {
  const { world } = engine
  const by = world.limitBy[n] || world.heldBy[n]
  const m = by > 0 ? world.slotOf(by) : -1
  if (m < 0 || world.speed[m] > STANDS_MPS) return undefined
  // Whose turn it is first is waited for.
  if (world.state[m] === STATE.walking && (world.limit[n] === LIMIT.queue || goesFirst(world, m, n))) return undefined
  const { x, y, radius } = world
  const steers = engine.profileOf(n).body.pursues ? STEERING : 1
  const narrow = (radius[n] + radius[m] + ROOM_M) * CHORD * steers
  const dx = x[m] - x[n]
  const dy = y[m] - y[n]
  const d = Math.sqrt(dx * dx + dy * dy)
  if (d < 1e-6) return undefined
  const left = dx * (goal[1] - y[m]) - dy * (goal[0] - x[m]) >= 0 ? 1 : -1
  for (const wider of WIDER) {
    for (const side of [left, -left]) {
      const line = cornersRound(engine, n, m, narrow * wider, dx / d, dy / d, side)
      if (line) return line
    }
  }
  return undefined
}

/** The corners of the way round one, on a side; undefined where there is no floor or somebody else stands. */
function cornersRound(
  engine: Engine,
  n: number,
  m: number,
  far: number,
  ux: number,
  uy: number,
  side: number,
): Point3[] | undefined {
  const { world } = engine
  const { walker, planner } = engine.profileOf(n)
  const line = [here(engine, n)]
  let spot = spotOf(engine, n)
  for (const [on, beside] of CORNERS) {
    const [ax, ay] = line[line.length - 1]
    const bx = world.x[m] + far * (on * ux - beside * side * uy)
    const by = world.y[m] + far * (on * uy + beside * side * ux)
    if (!spot || !walker.walk(spot, ax, ay, bx, by)) return undefined
    spot = walker.here()
    const z = planner.map.zOf(spot)
    if (isTaken(engine, n, m, bx, by, z)) return undefined
    line.push([bx, by, z])
  }
  return line
}

/** Does somebody else stand at a place? */
function isTaken({ world, near }: Engine, n: number, m: number, px: number, py: number, pz: number): boolean {
  const { radius, height, speed } = world
  const count = near.about(px, py, radius[n] + WIDEST_M)
  for (let k = 0; k < count; k++) {
    const o = near.found[k]
    if (o === n || o === m || speed[o] > STANDS_MPS) continue
    if (standsAt(world, o, px, py, pz, radius[n], height[n])) return true
  }
  return false
}
