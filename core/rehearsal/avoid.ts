import { eachBarrier } from '@tidytrail/core/reach'
import type { Engine } from './engine'
import { LIMIT } from './events'
import { HalfPlanes } from './half-planes'
import type { Neighbours } from './neighbours'
import { curveOfLane } from './traffic/rails'
import { holdBack, spotOf, STOP } from './travel'
import { STATE, type World } from './world'

/** So far ahead nobody is to touch anybody, and no wall, seconds. */
const AHEAD_S = 2
const WALL_AHEAD_S = 0.4
/** How far somebody looks round for others, metres. */
const LOOKS_M = 5
/** Nearer than this everybody is heeded, however they move, metres. */
const CLOSE_M = 2
/** Everybody keeps a little to the right of others, so that two who meet head on do not wait for each other. */
const RIGHT = 0.03
/** Slower than this is standing, metres a second. */
const STANDS_MPS = 1e-3
/** What drives keeps so much beside and before it free, metres. */
const BESIDE_M = 0.2
const BEFORE_M = 0.3

/** Those beside lanes are looked for in squares so wide, metres. */
const BESIDE_SQUARE_M = 4

const planes = new HalfPlanes()

/** Do two bodies stand at heights where they could touch? */
export function meetsInHeight({ z, height }: World, n: number, other: number): boolean {
  const dz = z[other] - z[n]
  return dz < height[n] && -dz < height[other]
}

/**
 * Bends what walkers want so that nobody runs into anybody: optimal reciprocal collision avoidance (van den Berg, Guy, Lin
 * and Manocha 2011). Two who walk share what has to give; who stands, or drives, gives nothing. What drives, floats or
 * flies brakes for what is in the space it is about to sweep.
 */
export function avoid(engine: Engine): void {
  const { world, scenario } = engine
  const { key, state, wantSpeed, speed } = world
  const away = (n: number) => state[n] === STATE.crossing
  engine.near.lay(world, away)
  if (engine.order.pieces > 0) besideLanes(engine, away)
  for (let n = 0; n < world.count; n++) {
    if (key[n] === 0 || state[n] === STATE.crossing || (wantSpeed[n] === 0 && speed[n] === 0)) continue
    const row = scenario.profiles[world.profile[n]]
    if (!row) continue
    if (world.rail[n] === 1) brakeFor(engine, n, engine.beside)
    else if (row.body.pursues) brakeFor(engine, n, engine.near)
    else if (wantSpeed[n] > 0 || state[n] === STATE.walking) bend(engine, n)
  }
}

let besides = new Int32Array(0)
/** Notes where those are who are not carried along lanes: those who are mind each other already. */
function besideLanes({ world, beside }: Engine, away: (n: number) => boolean): void {
  const { count, key, rail, x, y } = world
  if (besides.length < count) besides = new Int32Array(count * 2)
  for (let n = 0; n < count; n++) besides[n] = rail[n] === 1 ? 0 : key[n]
  beside.sort(count, x, y, besides, BESIDE_SQUARE_M)
  beside.lay(world, away)
}

function bend(engine: Engine, n: number): void {
  const { world } = engine
  const { x, y, vx, vy, wantX, wantY, wantSpeed } = world
  const others = engine.near.nearest(world, n, LOOKS_M, CLOSE_M)
  if (others === 0) return
  planes.clear()
  const spot = spotOf(engine, n)
  const { planner } = engine.profileOf(n)
  // Walls first: they must hold. They matter only where somebody else could press one against them.
  if (spot)
    eachBarrier(planner.map, spot, x[n], y[n], (dx, dy, gapM) => {
      const far = Math.sqrt(dx * dx + dy * dy)
      if (far < 1e-6) return
      const most = Math.max(0, gapM) / WALL_AHEAD_S
      planes.add((dx / far) * most, (dy / far) * most, -dy / far, dx / far, true)
    })
  let closest = -1
  for (let k = 0; k < others; k++) {
    const m = engine.near.closest[k]
    const walks = world.state[m] === STATE.walking && !engine.scenario.profiles[world.profile[m]]?.body.pursues
    const apartM = world.radius[n] + world.radius[m] + (world.rail[m] === 1 ? OFF_WHEELS_M : 0)
    if (k === 0) closest = m
    if (walks && goesFirst(world, n, m)) continue
    keepOff(
      engine.scenario.stepS,
      x[m] - x[n],
      y[m] - y[n],
      vx[n],
      vy[n],
      vx[m],
      vy[m],
      apartM,
      walks && !goesFirst(world, m, n),
    )
  }
  const want = wantSpeed[n]
  const wx = (wantX[n] + RIGHT * wantY[n]) * want
  const wy = (wantY[n] - RIGHT * wantX[n]) * want
  planes.solve(wx, wy, want)
  const mps = Math.sqrt(planes.x * planes.x + planes.y * planes.y)
  const off = (planes.x - wx) * (planes.x - wx) + (planes.y - wy) * (planes.y - wy)
  if (off > 0.01 * want * want) {
    // Behind somebody who goes the same way, or first through the same place, it is a queue.
    const ahead = (x[closest] - x[n]) * wantX[n] + (y[closest] - y[n]) * wantY[n]
    const along = vx[closest] * wantX[n] + vy[closest] * wantY[n]
    const turn = world.state[closest] === STATE.walking && goesFirst(world, closest, n)
    world.limit[n] = ahead > 0 && (along > 0.05 || turn) ? LIMIT.queue : LIMIT.neighbour
    world.limitBy[n] = world.key[closest]
  }
  if (mps < STANDS_MPS) {
    wantSpeed[n] = 0
    return
  }
  wantX[n] = planes.x / mps
  wantY[n] = planes.y / mps
  wantSpeed[n] = mps
}

/** Corners nearer to each other than this are one narrow place; who is farther from it than that is not there yet, metres. */
const SAME_M = 1.2
const THERE_M = 6

/**
 * Does an agent go first where both make for the same corner? Who is nearer to it does; the other gives all that has to
 * give. So a crowd before a doorway goes through it one by one, and does not wedge itself in.
 */
export function goesFirst({ x, y, key, corner, cornerX, cornerY }: World, n: number, other: number): boolean {
  // At a stop all of them are to stand.
  if (((corner[n] | corner[other]) & STOP) !== 0) return false
  const dx = cornerX[n] - cornerX[other]
  const dy = cornerY[n] - cornerY[other]
  if (dx * dx + dy * dy > SAME_M * SAME_M) return false
  const own2 = (cornerX[n] - x[n]) ** 2 + (cornerY[n] - y[n]) ** 2
  const others2 = (cornerX[other] - x[other]) ** 2 + (cornerY[other] - y[other]) ** 2
  if (own2 > THERE_M * THERE_M || others2 > THERE_M * THERE_M) return false
  return own2 < others2 || (own2 === others2 && key[n] < key[other])
}

/** Adds the half-plane of velocities with which nobody touches another one, half of it or all being one's own to give. */
function keepOff(
  stepS: number,
  px: number,
  py: number,
  vx: number,
  vy: number,
  ux: number,
  uy: number,
  apartM: number,
  shared: boolean,
): void {
  const rx = vx - ux
  const ry = vy - uy
  const d2 = px * px + py * py
  const share = shared ? 0.5 : 1
  const touching = d2 <= apartM * apartM
  const ahead = touching ? stepS * 4 : AHEAD_S
  const wx = rx - px / ahead
  const wy = ry - py / ahead
  const w2 = wx * wx + wy * wy
  const dot = wx * px + wy * py
  if (touching || (dot < 0 && dot * dot > apartM * apartM * w2)) {
    const w = Math.sqrt(w2)
    if (w < 1e-9) return
    const u = apartM / ahead - w
    planes.add(vx + (share * u * wx) / w, vy + (share * u * wy) / w, wy / w, -wx / w)
    return
  }
  const leg = Math.sqrt(d2 - apartM * apartM)
  const left = px * wy - py * wx > 0
  const dx = left ? (px * leg - py * apartM) / d2 : -(px * leg + py * apartM) / d2
  const dy = left ? (px * apartM + py * leg) / d2 : -(-px * apartM + py * leg) / d2
  const along = rx * dx + ry * dy
  planes.add(vx + share * (along * dx - rx), vy + share * (along * dy - ry), dx, dy)
}

/** Brakes for whoever is in the space a body is about to sweep: the arc it is on, as far as it takes to stop. */
function brakeFor(engine: Engine, n: number, near: Neighbours): void {
  const { world } = engine
  const { x, y, vx, vy, headX, headY, speed, radius, wantCurve } = world
  const row = engine.scenario.profiles[world.profile[n]]!
  const { powers, body, profile } = row
  const v = Math.max(speed[n], Math.min(1, world.wantSpeed[n]))
  const stopM = (v * v) / (2 * powers.brakeMps2)
  const count = near.nearest(world, n, stopM + 2 * radius[n] + 3, CLOSE_M)
  if (count > 0 && world.rail[n] === 1) wantCurve[n] = curveOfLane(engine, n)
  for (let k = 0; k < count; k++) {
    const m = near.closest[k]
    const dx = x[m] - x[n]
    const dy = y[m] - y[n]
    const ahead = dx * headX[n] + dy * headY[n]
    const apartM = radius[n] + radius[m]
    if (ahead <= 0.3 * radius[n]) continue
    const left = -dx * headY[n] + dy * headX[n] - (wantCurve[n] * ahead * ahead) / 2
    // What comes across is where it will be when one is there.
    const soonS = Math.min(2, ahead / Math.max(0.5, v))
    const cross = left + (-vx[m] * headY[n] + vy[m] * headX[n]) * soonS
    if (Math.min(Math.abs(left), Math.abs(cross)) > apartM + BESIDE_M && left * cross > 0) continue
    const gap = Math.max(0, ahead - Math.sqrt(Math.max(0, apartM * apartM - left * left)) - BEFORE_M)
    const on = Math.max(0, vx[m] * headX[n] + vy[m] * headY[n])
    const most = Math.sqrt(on * on + 2 * powers.brakeMps2 * gap)
    holdBack(engine, n, Math.max(powers.slowestMps, most), on > 0.2 ? LIMIT.queue : LIMIT.neighbour, world.key[m])
    // What flies goes over or under: who came later goes up, if its band allows.
    if (body.medium === 'air') world.wantZ[n] += (world.key[n] > world.key[m] ? 1 : -1) * profile.heightM * 2
  }
}

/** A body may come this much nearer than touching, as a share, so that arithmetic holds nobody fast. */
const TOUCH = 0.998
/** Whoever walks keeps this far off whoever drives on a lane, metres: brushing along a wagon is being hit by it. */
const OFF_WHEELS_M = 0.02
/** And whoever drives, this far off whoever walks. */
const OFF_FEET_M = 0.002
/** Others may be this wide, with what they have moved since they were sorted, metres. */
export const WIDEST_M = 2.5

const moved = new Float64Array(2)
/** Who was in the way of the last move that was asked about; −1 for nobody. */
export const inTheWay = { slot: -1 }
/**
 * What is left of a move when nobody is to be touched, written to the two numbers given back: who already touches may
 * not come nearer.
 */
export function withoutTouching(engine: Engine, n: number, dx: number, dy: number): Float64Array {
  const { world, near } = engine
  const { x, y, radius, state, rail } = world
  moved[0] = dx
  moved[1] = dy
  inTheWay.slot = -1
  const reach = Math.sqrt(dx * dx + dy * dy)
  if (reach === 0) return moved
  const count = near.about(x[n], y[n], radius[n] + reach + OFF_WHEELS_M + WIDEST_M)
  if (count <= 1) return moved
  const { found } = near
  for (let pass = 0; pass < 3; pass++) {
    let touched = false
    for (let k = 0; k < count; k++) {
      const m = found[k]
      if (m === n) continue
      const px = x[m] - x[n]
      const py = y[m] - y[n]
      const off = rail[n] === 1 ? OFF_FEET_M : OFF_WHEELS_M
      const apartM = rail[m] === rail[n] ? (radius[n] + radius[m]) * TOUCH : radius[n] + radius[m] + off
      const far2 = px * px + py * py
      if (far2 > (apartM + reach) * (apartM + reach) || state[m] === STATE.crossing || !meetsInHeight(world, n, m))
        continue
      const far = Math.sqrt(far2)
      const after = Math.sqrt((px - moved[0]) ** 2 + (py - moved[1]) ** 2)
      if (after >= apartM || after >= far || far < 1e-9) continue
      touched = true
      if (pass === 2) {
        inTheWay.slot = m
        moved[0] = moved[1] = 0
        return moved
      }
      const toward = (moved[0] * px + moved[1] * py) / far
      const over = toward - Math.max(0, far - apartM)
      if (over <= 0) continue
      inTheWay.slot = m
      moved[0] -= (over * px) / far
      moved[1] -= (over * py) / far
    }
    if (!touched) break
  }
  return moved
}

/** Has an agent, moving from a place to where it is now, come into another one, or farther into it? */
export function runsInto({ world, near }: Engine, n: number, fromX: number, fromY: number): boolean {
  const { x, y, radius, state } = world
  const count = near.about(x[n], y[n], radius[n] + WIDEST_M)
  for (let k = 0; k < count; k++) {
    const m = near.found[k]
    if (m === n || state[m] === STATE.crossing) continue
    const apartM = (radius[n] + radius[m]) * TOUCH
    const far2 = (x[m] - x[n]) ** 2 + (y[m] - y[n]) ** 2
    if (far2 >= apartM * apartM || !meetsInHeight(world, n, m)) continue
    if (far2 < (x[m] - fromX) ** 2 + (y[m] - fromY) ** 2) return true
  }
  return false
}

/** Would an agent, at another height where it is, come into somebody it is over or under now? */
export function comesInto({ world, near }: Engine, n: number, nextZ: number): boolean {
  const { x, y, z, radius, height, state } = world
  if (nextZ === z[n]) return false
  const count = near.about(x[n], y[n], radius[n] + WIDEST_M)
  for (let k = 0; k < count; k++) {
    const m = near.found[k]
    if (m === n || state[m] === STATE.crossing) continue
    const apartM = radius[n] + radius[m]
    if ((x[m] - x[n]) ** 2 + (y[m] - y[n]) ** 2 >= apartM * apartM) continue
    const meets = (own: number) => z[m] - own < height[n] && own - z[m] < height[m]
    if (meets(nextZ) && (!meets(z[n]) || Math.abs(z[m] - nextZ) < Math.abs(z[m] - z[n]))) return true
  }
  return false
}
