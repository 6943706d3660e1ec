import type { Engine } from '../engine'
import { holdBack, spotOf } from '../travel'
import { LIMIT } from '../events'
import { mostCurve } from '../steer'
import { advance } from './advance'
import { powersOf, type BodyModel } from './body'
import { roll } from '../traffic/rails'
import { rotate } from './walker'

/** How long the wheels take from straight to full lock, seconds. */
const LOCK_S = 0.6
/** Room kept in front, metres. */
const ROOM_M = 0.15

/**
 * On wheels: a kinematic bicycle (Rajamani 2012, 2.2) given by its curvature. It goes where it points; what it is asked
 * to turn more sharply than its grip allows at its speed it does not, and so runs wide.
 */
export const vehicle: BodyModel = {
  medium: 'wheels',
  powers: (p) => ({ ...powersOf(p), turnM: Math.max(p.turnM, 0.3), slowestMps: 0 }),
  pursues: true,
  backsUp: true,
  keepsLane: true,
  move(engine, n) {
    const { world, scenario } = engine
    if (world.rail[n] === 1) return roll(engine, n)
    const { powers } = engine.profileOf(n)
    if (backs(engine, n)) return
    keepInside(engine, n, powers.brakeMps2)
    const most = mostCurve(engine, n)
    const lock = (1 / Math.max(0.3, powers.turnM)) * (scenario.stepS / LOCK_S)
    const asked = Math.max(world.yaw[n] - lock, Math.min(world.yaw[n] + lock, world.wantCurve[n]))
    world.yaw[n] = Math.max(-most, Math.min(most, asked))
    drive(engine, n, powers.accelMps2, powers.brakeMps2, world.yaw[n])
  },
}

/** How fast it backs up, metres a second. */
const BACK_MPS = 0.8

/** Backs up straight while it is to stand aside: it cannot step sideways. @returns does it, or is it still rolling back? */
function backs(engine: Engine, n: number): boolean {
  const { world, scenario, t } = engine
  const { headX, headY, vx, vy, speed } = world
  const { powers } = engine.profileOf(n)
  const on = vx[n] * headX[n] + vy[n] * headY[n]
  const aside = t < world.asideUntil[n]
  if (on > 1e-3 || (!aside && on > -1e-3)) return false
  const dt = scenario.stepS
  const v = aside ? Math.min(BACK_MPS, speed[n] + powers.accelMps2 * dt) : Math.max(0, speed[n] - powers.brakeMps2 * dt)
  speed[n] = v
  vx[n] = -headX[n] * v
  vy[n] = -headY[n] * v
  if (v > 0) advance(engine, n)
  return true
}

/** Speeds up or brakes towards the wanted speed, and goes along an arc. */
export function drive(engine: Engine, n: number, accel: number, brake: number, curve: number): void {
  const { world, scenario } = engine
  const dt = scenario.stepS
  const { headX, headY, vx, vy, speed, wantSpeed } = world
  const before = speed[n]
  const want = Number.isFinite(wantSpeed[n]) ? wantSpeed[n] : 0
  const v = want < before ? Math.max(want, before - brake * dt) : Math.min(want, before + accel * dt)
  speed[n] = v
  if (v === 0) {
    vx[n] = vy[n] = 0
    return
  }
  // The chord of the arc lies half way between the headings at its ends.
  const half = (v * curve * dt) / 2
  rotate(world, n, half)
  vx[n] = headX[n] * v
  vy[n] = headY[n] * v
  rotate(world, n, half)
  world.turned[n] += 2 * Math.abs(half)
  advance(engine, n)
}

/** Brakes in time for the edge of its reach, should it be running towards it. */
export function keepInside(engine: Engine, n: number, brake: number): void {
  const { world, scenario } = engine
  const { x, y, headX, headY, speed } = world
  const v = speed[n]
  if (v < 0.05) return
  // Looked for every other step: what is seen must do for two.
  if ((world.steps + world.key[n]) % 2 === 1) return
  const spot = spotOf(engine, n)
  if (!spot) return
  const { walker } = engine.profileOf(n)
  const far = (v * v) / (2 * brake) + 3 * v * scenario.stepS + ROOM_M
  // Along the arc it is on, as two chords.
  const bend = (world.yaw[n] * far) / 4
  let [px, py, hx, hy] = [x[n], y[n], headX[n], headY[n]]
  let free = 0
  let at = spot
  for (let chord = 0; chord < 2; chord++) {
    const [ux, uy] = [hx - hy * bend, hy + hx * bend]
    const length = Math.sqrt(ux * ux + uy * uy)
    hx = ux / length
    hy = uy / length
    const qx = px + (hx * far) / 2
    const qy = py + (hy * far) / 2
    const whole = walker.walk(at, px, py, qx, qy)
    free += (whole ? 1 : walker.share) * (far / 2)
    if (!whole) {
      holdBack(engine, n, Math.sqrt(2 * brake * Math.max(0, free - ROOM_M)), LIMIT.gap)
      if (world.wantSpeed[n] < 0.2 && free > 0.02) world.wantSpeed[n] = 0.2
      return
    }
    at = walker.here()
    px = qx
    py = qy
    const [wx, wy] = [hx - hy * bend, hy + hx * bend]
    const l2 = Math.sqrt(wx * wx + wy * wy)
    hx = wx / l2
    hy = wy / l2
  }
}
