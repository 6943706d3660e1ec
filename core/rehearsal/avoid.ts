import { eachBarrier } from '@tidytrail/core/reach'
import { HalfPlanes } from './half-planes'
import type { World } from './world'

/** So far ahead nobody is to touch anybody, and no wall, seconds. */
const AHEAD_S = 2
const WALL_AHEAD_S = 0.4
/** How far somebody looks round for others, metres, and how many of the nearest are heeded. */
const LOOKS_M = 5
const HEEDED = 12
/** Everybody keeps a little to the right of others, so that two who meet head on do not wait for each other. */
const RIGHT = 0.03
/** Slower than this is standing, metres a second. */
const STANDS_MPS = 1e-3

const planes = new HalfPlanes()
/** The nearest others of whoever is looked at, and the squares of their distances; the nearest first. */
const heeded = new Uint32Array(HEEDED)
const heeded2 = new Float64Array(HEEDED)

/** Is somebody there to be walked round? Who goes through a passage, or has not come, is not. */
export const isThere = (world: World, n: number): boolean => {
  const { state } = world.agents[n]
  return state !== 'waiting' && state !== 'crossing'
}

/** Do two bodies stand at heights where they could touch? */
export function meetsInHeight(world: World, n: number, other: number): boolean {
  const dz = world.z[other] - world.z[n]
  return dz < world.agents[n].profile.heightM && -dz < world.agents[other].profile.heightM
}

/**
 * Bends what walkers want so that nobody runs into anybody: optimal reciprocal collision avoidance (van den Berg, Guy, Lin
 * and Manocha 2011). Two who walk share what has to give; who stands gives nothing.
 */
export function avoid(world: World): void {
  for (let n = 0; n < world.agents.length; n++) {
    if (world.agents[n].state === 'walking' && world.wantSpeed[n] > 0) bend(world, n)
  }
}

function bend(world: World, n: number): void {
  const { x, y, headX, headY, speed, wantX, wantY, wantSpeed, agents } = world
  const agent = agents[n]
  const vx = headX[n] * speed[n]
  const vy = headY[n] * speed[n]
  const others = findNearest(world, n)
  if (others === 0) return
  planes.clear()
  // Walls first: they must hold. They matter only where somebody else could press one against them.
  if (agent.spot)
    eachBarrier(agent.planner.map, agent.spot, x[n], y[n], (dx, dy, gapM) => {
      const far = Math.sqrt(dx * dx + dy * dy)
      if (far < 1e-6) return
      const most = Math.max(0, gapM) / WALL_AHEAD_S
      planes.add((dx / far) * most, (dy / far) * most, -dy / far, dx / far, true)
    })
  for (let k = 0; k < others; k++) {
    const m = heeded[k]
    const moves = agents[m].state === 'walking'
    const ux = moves ? headX[m] * speed[m] : 0
    const uy = moves ? headY[m] * speed[m] : 0
    keepOff(world, x[m] - x[n], y[m] - y[n], vx, vy, ux, uy, agent.profile.radiusM + agents[m].profile.radiusM, moves)
  }
  const wx = (wantX[n] + RIGHT * wantY[n]) * wantSpeed[n]
  const wy = (wantY[n] - RIGHT * wantX[n]) * wantSpeed[n]
  planes.solve(wx, wy, wantSpeed[n])
  const mps = Math.sqrt(planes.x * planes.x + planes.y * planes.y)
  if (mps < STANDS_MPS) {
    wantSpeed[n] = 0
    return
  }
  wantX[n] = planes.x / mps
  wantY[n] = planes.y / mps
  wantSpeed[n] = mps
}

/** Finds the nearest who could be met. @returns how many */
function findNearest(world: World, n: number): number {
  const { x, y, near } = world
  const count = near.about(x[n], y[n], LOOKS_M)
  const { found } = near
  let heeds = 0
  for (let k = 0; k < count; k++) {
    const m = found[k]
    if (m === n) continue
    const dx = x[m] - x[n]
    const dy = y[m] - y[n]
    const d2 = dx * dx + dy * dy
    if (d2 > LOOKS_M * LOOKS_M || (heeds === HEEDED && d2 >= heeded2[HEEDED - 1]) || !meetsInHeight(world, n, m))
      continue
    let at = heeds < HEEDED ? heeds++ : HEEDED - 1
    // Of those equally far the one with the lower number is the nearer, whatever square it lies in.
    while (at > 0 && (heeded2[at - 1] > d2 || (heeded2[at - 1] === d2 && heeded[at - 1] > m))) {
      heeded[at] = heeded[at - 1]
      heeded2[at] = heeded2[at - 1]
      at--
    }
    heeded[at] = m
    heeded2[at] = d2
  }
  return heeds
}

/** Adds the half-plane of velocities with which nobody touches another one, half of it or all being one's own to give. */
function keepOff(
  world: World,
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
  const ahead = touching ? world.stepS * 4 : AHEAD_S
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

/** A body may come this much nearer than touching, as a share, so that arithmetic holds nobody fast. */
const TOUCH = 0.998

/** Others may be this wide, with what they have moved since they were sorted, metres. */
const WIDEST_M = 2.5

const moved = new Float64Array(2)
/**
 * What is left of a move when nobody is to be touched, written to the two numbers given back: who already touches may
 * not come nearer.
 */
export function withoutTouching(world: World, n: number, dx: number, dy: number): Float64Array {
  const { x, y, agents, near } = world
  const radiusM = agents[n].profile.radiusM
  moved[0] = dx
  moved[1] = dy
  const reach = Math.sqrt(dx * dx + dy * dy)
  for (let pass = 0; pass < 3; pass++) {
    let touched = false
    const count = near.about(x[n], y[n], radiusM + reach + WIDEST_M)
    const { found } = near
    for (let k = 0; k < count; k++) {
      const m = found[k]
      if (m === n || !isThere(world, m)) continue
      const px = x[m] - x[n]
      const py = y[m] - y[n]
      const apartM = (radiusM + agents[m].profile.radiusM) * TOUCH
      const far2 = px * px + py * py
      if (far2 > (apartM + reach) * (apartM + reach) || !meetsInHeight(world, n, m)) continue
      const far = Math.sqrt(far2)
      const after = Math.sqrt((px - moved[0]) ** 2 + (py - moved[1]) ** 2)
      if (after >= apartM || after >= far || far < 1e-9) continue
      touched = true
      if (pass === 2) {
        moved[0] = moved[1] = 0
        return moved
      }
      const toward = (moved[0] * px + moved[1] * py) / far
      const over = toward - Math.max(0, far - apartM)
      if (over <= 0) continue
      moved[0] -= (over * px) / far
      moved[1] -= (over * py) / far
    }
    if (!touched) break
  }
  return moved
}
