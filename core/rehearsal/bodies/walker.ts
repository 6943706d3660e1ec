import { exact } from '@tidytrail/core/geometry'
import type { Engine } from '../engine'
import { advance } from './advance'
import { powersOf, type BodyModel } from './body'

/** Somebody who walks sideways or backwards is slower by so much. */
const SIDEWAYS = 0.5

/** On foot: any direction, a velocity that changes no faster than the legs can, a body that turns where it goes. */
export const walker: BodyModel = {
  medium: 'foot',
  powers: (p) => ({ ...powersOf(p), turnM: 0, slowestMps: 0 }),
  pursues: false,
  move: (engine, n) => walk(engine, n, 1),
}

/** One step on foot, or like it. @param keeps share of its speed */
export function walk(engine: Engine, n: number, keeps: number): void {
  const { world, scenario } = engine
  const { headX, headY, vx, vy, speed, wantX, wantY } = world
  const { powers } = engine.profileOf(n)
  const dt = scenario.stepS
  const wanted = world.wantSpeed[n] * keeps
  const still = wanted === 0 && speed[n] === 0
  if (wantX[n] !== 0 || wantY[n] !== 0) turn(engine, n, powers.turnRadps * dt)
  if (still) return
  const aligned = headX[n] * wantX[n] + headY[n] * wantY[n]
  const mps = wanted * (1 - SIDEWAYS * (1 - Math.max(0, aligned)) ** 2)
  let dx = wantX[n] * mps - vx[n]
  let dy = wantY[n] * mps - vy[n]
  const change = Math.sqrt(dx * dx + dy * dy)
  const slower = mps < speed[n]
  const most = (slower ? Math.max(powers.brakeMps2, powers.accelMps2) : powers.accelMps2) * dt
  if (change > most) {
    dx *= most / change
    dy *= most / change
  }
  vx[n] += dx
  vy[n] += dy
  if (vx[n] * vx[n] + vy[n] * vy[n] < 1e-8 && wanted === 0) vx[n] = vy[n] = 0
  advance(engine, n)
}

/** Turns a body towards where it wants to go by at most an angle. */
export function turn({ world }: Engine, n: number, mostRad: number): void {
  const { headX, headY, wantX, wantY } = world
  if (headX[n] === wantX[n] && headY[n] === wantY[n]) return
  const cross = headX[n] * wantY[n] - headY[n] * wantX[n]
  const dot = headX[n] * wantX[n] + headY[n] * wantY[n]
  if (exact.atan2(Math.abs(cross), dot) <= mostRad) {
    headX[n] = wantX[n]
    headY[n] = wantY[n]
    return
  }
  rotate(world, n, cross >= 0 ? mostRad : -mostRad)
}

export function rotate(
  { headX, headY }: { readonly headX: Float64Array; readonly headY: Float64Array },
  n: number,
  rad: number,
): void {
  const c = exact.cos(rad)
  const s = exact.sin(rad)
  const hx = headX[n] * c - headY[n] * s
  const hy = headX[n] * s + headY[n] * c
  // Kept of length one.
  const length = Math.sqrt(hx * hx + hy * hy)
  headX[n] = hx / length
  headY[n] = hy / length
}
