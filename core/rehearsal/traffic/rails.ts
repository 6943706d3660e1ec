import { PARKS_SLOPE } from '@tidytrail/core/traffic'
import { standAt } from '../bodies/advance'
import { LOOK_M, LOOK_S, overCover, pastGoal } from '../steer'
import { PACK, placeAt, speedBefore, type Course } from '../course'
import type { Engine } from '../engine'
import { LIMIT, WAITS } from '../events'
import { inTheWay, withoutTouching } from '../avoid'
import { holdBack, LAST, loadSpeeds, setSpot, spotOf } from '../travel'
import type { World } from '../world'

/** So near its line, and headed along it by so much (a cosine), a body is carried along from then on, metres. */
const ON_LINE_M = 0.75
const ALONG = 0.94
/** It comes over to its line by so much of its speed, and no faster than this, metres a second. */
export const OVER_SHARE = 0.2
export const OVER_MPS = 1.4
/** So near to its new lane it has left the one it changed from, metres. */
const OVER_M = 0.75
/** Its ends lie so far before and behind its middle, in radii: they are on the line, and so it is turned. */
const ENDS = 0.7

/**
 * Is a body that pursues its line from now on carried along it? A body on wheels follows any line exactly that bends no
 * tighter than it can turn, if its speed is what that bend allows (Fliess, Lévine, Martin and Rouchon 1995): on a lane
 * it need not be steered. One that cannot turn as tightly goes on pursuing, and is seen to leave its lane.
 */
export function comesOnRails(engine: Engine, n: number, course: Course): void {
  const { world } = engine
  if (!course.track || world.offLine[n] > ON_LINE_M || engine.t < world.asideUntil[n]) return
  if (pieceAt(engine, n, course) < 0) return
  const k = world.point[n]
  const dx = course.x[k] - course.x[k - 1]
  const dy = course.y[k] - course.y[k - 1]
  const length = Math.sqrt(dx * dx + dy * dy)
  if (length < 1e-9 || dx * world.headX[n] + dy * world.headY[n] < ALONG * length) return
  world.rail[n] = 1
  world.leaves[n] = 0
  // How far to the left of the line it is.
  world.asideM[n] = ((world.y[n] - course.y[k - 1]) * dx - (world.x[n] - course.x[k - 1]) * dy) / length
}

/** Notes which piece of the lanes a body is on, and how far along. @returns its number; −1 for none */
export function pieceAt({ world }: Engine, n: number, { track }: Course): number {
  if (!track) return (world.piece[n] = -1)
  const s = world.along[n]
  let leg = Math.min(world.onLeg[n], track.piece.length - 1)
  while (leg > 0 && s < track.fromS[leg]) leg--
  while (leg < track.piece.length - 1 && s >= track.toS[leg]) leg++
  world.onLeg[n] = leg
  world.legFromS[n] = track.fromS[leg]
  world.legToS[n] = track.toS[leg]
  world.legFromM[n] = track.fromM[leg]
  world.legToM[n] = track.toM[leg]
  goOnAlong(world, n)
  return (world.piece[n] = track.piece[leg])
}

/** Notes how far along its piece a body is that is still on it. */
function goOnAlong({ along, pieceM, legFromS, legToS, legFromM, legToM }: World, n: number): void {
  const length = legToS[n] - legFromS[n]
  const share = length > 0 ? (along[n] - legFromS[n]) / length : 1
  pieceM[n] = legFromM[n] + share * (legToM[n] - legFromM[n])
}

/** How fast one that is carried along its lane may go, by its course alone, and which stop it has come to. */
export function ride(engine: Engine, n: number, course: Course): void {
  const { world } = engine
  const { powers } = engine.profileOf(n)
  if (world.along[n] < world.legToS[n] && world.along[n] >= world.legFromS[n]) goOnAlong(world, n)
  else if (pieceAt(engine, n, course) < 0) {
    // Off the end of the lanes it steers by itself again.
    world.rail[n] = 0
    return
  }
  if (world.loaded[n] !== world.point[n]) loadSpeeds(engine, n, course)
  pastGoal(engine, n, course)
  world.wantSpeed[n] = Infinity
  holdBack(engine, n, world.gaitMps[n], LIMIT.nothing)
  const brake = powers.brakeMps2 * 0.9
  const mps = speedBefore(world.cornerMps[n], world.cornerS[n] - world.along[n], brake)
  holdBack(engine, n, mps, (world.corner[n] & LAST) !== 0 ? LIMIT.arrival : LIMIT.corner)
  if (engine.scenario.covered) overCover(engine, n)
}

/** How a lane bends ahead of somebody who is carried along it, one by its radius in metres, to the left when positive. */
export function curveOfLane({ world }: Engine, n: number): number {
  const course = world.courses[n]!
  const at = placeAt(course, world.along[n] + LOOK_M + LOOK_S * world.speed[n], world.point[n])
  const dx = at[0] - world.x[n]
  const dy = at[1] - world.y[n]
  return (2 * (dy * world.headX[n] - dx * world.headY[n])) / Math.max(1e-6, dx * dx + dy * dy)
}

/** Carries a body along its lane for a step. */
export function roll(engine: Engine, n: number): void {
  const { world, scenario } = engine
  const { x, y, vx, vy, speed } = world
  const course = world.courses[n]!
  const { powers } = engine.profileOf(n)
  const dt = scenario.stepS
  const want = Number.isFinite(world.wantSpeed[n]) ? world.wantSpeed[n] : 0
  const before = speed[n]
  const v =
    want < before ? Math.max(want, before - powers.brakeMps2 * dt) : Math.min(want, before + powers.accelMps2 * dt)
  // What it loses to who is in front, to lights and to others' right of way is none of its own.
  if (WAITS.has(world.limit[n])) world.legSince[n] += dt * Math.max(0, 1 - v / Math.max(0.1, world.gaitMps[n]))
  if (v <= 1e-9) {
    speed[n] = vx[n] = vy[n] = 0
    return
  }
  const s = world.along[n] + v * dt
  let k = world.point[n]
  const { packed, count } = course
  while (k < count - 1 && packed[PACK * k + 2] < s) k++
  const ends = ENDS * world.radius[n]
  const front = placeAt(course, s + ends, k)
  const fx = front[0]
  const fy = front[1]
  const rear = placeAt(course, s - ends, k)
  let hx = fx - rear[0]
  let hy = fy - rear[1]
  const wide = Math.sqrt(hx * hx + hy * hy)
  hx = wide > 1e-9 ? hx / wide : world.headX[n]
  hy = wide > 1e-9 ? hy / wide : world.headY[n]
  const over = (world.halt[n] > 0 ? PARKS_SLOPE * v : Math.min(OVER_MPS, OVER_SHARE * v)) * dt
  const aside = world.asideM[n]
  const to = world.asideTo[n]
  const left = aside > to + over ? aside - over : aside < to - over ? aside + over : to
  const at = placeAt(course, s, k)
  const dx = at[0] - hy * left - x[n]
  const dy = at[1] + hx * left - y[n]
  const free = withoutTouching(engine, n, dx, dy)
  const touches = free[0] !== dx || free[1] !== dy
  if (touches || !onReach(engine, n, x[n] + dx, y[n] + dy)) {
    // Somebody is there, or nothing to stand on: it stays where it is; off its reach it steers by itself.
    speed[n] = vx[n] = vy[n] = 0
    // Who waits for somebody else anyway goes on saying so.
    if (touches && !WAITS.has(world.limit[n])) {
      world.limit[n] = LIMIT.neighbour
      world.limitBy[n] = inTheWay.slot < 0 ? 0 : world.key[inTheWay.slot]
    }
    if (!touches) world.rail[n] = 0
    return
  }
  x[n] += dx
  y[n] += dy
  vx[n] = dx / dt
  vy[n] = dy / dt
  speed[n] = v
  world.turned[n] = 0
  world.headX[n] = hx
  world.headY[n] = hy
  world.along[n] = s
  world.asideM[n] = left
  // Who changes lanes strays from neither, nor does who parks.
  world.offLine[n] = world.leaves[n] > 0 || world.halt[n] > 0 ? 0 : Math.abs(left)
  if (world.leaves[n] > 0) {
    world.leavesM[n] += v * dt
    if (Math.abs(left) < OVER_M) world.leaves[n] = 0
  }
  world.point[n] = k
  world.z[n] = standAt(engine, n)
}

/** Is a place on the reach, from where a body is? Its floor is noted. */
function onReach(engine: Engine, n: number, toX: number, toY: number): boolean {
  const { world } = engine
  const { walker, planner } = engine.profileOf(n)
  if (planner.map.isOpen(world.spotTile[n], world.spotColumn[n], world.spotFloor[n], toX, toY)) return true
  const spot = spotOf(engine, n)
  if (!spot || !walker.walk(spot, world.x[n], world.y[n], toX, toY)) return false
  setSpot(engine, n, walker.here())
  return true
}
