import { exact } from '@tidytrail/core/geometry'
import { coverAt } from '@tidytrail/core/ground'
import { PACK, placeAt, speedBefore, type Course } from './course'
import type { Engine } from './engine'
import { LIMIT } from './events'
import { PASSES_M } from './powers'
import { comesOnRails, ride } from './traffic/rails'
import { holdBack, LAST, loadPiece, makeFor, PASSAGE, spotOf, STOP } from './travel'
import { STATE } from './world'

/** How near a corner of the way counts as passed, metres. */
const CORNER_M = 0.12
/** Nearer than this one is there, metres. */
const HERE_M = 0.02
/** How far from a corner it may be passed beside it, metres. */
const BESIDE_M = 2
/** So far along the next piece it has been passed, metres. */
const BEYOND_M = 0.1
/** Bodies standing within this of a stop stand at it, metres. */
const AT_STOP_M = 2.5
/** Those who pursue a line look ahead by so much, and by so much of their speed, metres and seconds (Coulter 1992). */
export const LOOK_M = 0.8
export const LOOK_S = 0.55
/** The slower it answers its helm, the farther ahead it looks. */
const LOOK_LAG = 0.9
/** Its place along the line is looked for so far ahead of the last: more than anything does in a step, metres. */
const STEP_M = 3
/** How fast somebody looks around, times a second there and back. */
const LOOKS_HZ = 0.2

/** Says of each agent what it wants: a velocity for those who walk, a speed and a curvature for those who pursue. */
export function steer(engine: Engine): void {
  const { world } = engine
  const { key, state } = world
  for (let n = 0; n < world.count; n++) {
    if (key[n] === 0) continue
    world.wantSpeed[n] = 0
    world.limit[n] = LIMIT.nothing
    world.limitBy[n] = 0
    const row = engine.scenario.profiles[world.profile[n]]
    if (!row || state[n] === STATE.crossing) continue
    if (state[n] === STATE.steered) {
      world.rail[n] = 0
      world.wantX[n] = world.steerX[n]
      world.wantY[n] = world.steerY[n]
      world.wantSpeed[n] = Math.max(0, world.steerMps[n])
      continue
    }
    const course = world.courses[n]
    // Who is carried along a lane, on the piece it was on, need not look at its course for that.
    const known = world.rail[n] === 1 && world.loaded[n] === world.point[n]
    if (state[n] === STATE.walking && course && (known || world.point[n] < course.count)) {
      if (world.rail[n] === 1) ride(engine, n, course)
      if (world.rail[n] === 1) continue
      if (row.body.pursues) pursue(engine, n, course)
      else walkOn(engine, n, course)
    } else {
      world.rail[n] = 0
      if (state[n] === STATE.pausing) face(engine, n)
      hold(engine, n)
    }
  }
}

/** What cannot stand still in the air goes round where it is to wait. */
function hold(engine: Engine, n: number): void {
  const { world } = engine
  const { powers } = engine.profileOf(n)
  if (powers.slowestMps === 0) return
  world.wantSpeed[n] = powers.slowestMps
  world.wantCurve[n] = powers.turnRadps / powers.slowestMps / 1.5
  world.wantZ[n] = world.z[n]
}

/** Walkers go from corner to corner of their way. */
function walkOn(engine: Engine, n: number, course: Course): void {
  const { world } = engine
  const { x, y } = world
  const { powers } = engine.profileOf(n)
  let dx: number
  let dy: number
  let distance: number
  for (;;) {
    if (world.loaded[n] !== world.point[n]) loadPiece(engine, n, course)
    if (world.point[n] >= course.count) return
    dx = world.cornerX[n] - x[n]
    dy = world.cornerY[n] - y[n]
    distance = Math.sqrt(dx * dx + dy * dy)
    const isStop = (world.corner[n] & STOP) !== 0
    let reached = CORNER_M
    if (isStop) {
      if (world.mark[n] === world.leg[n]) reached = Math.max(CORNER_M, world.arrivalM[n])
      if (distance < reached + AT_STOP_M && distance > reached)
        reached += crowdM(engine, n, world.cornerX[n], world.cornerY[n])
    }
    if (distance > reached && !(distance < BESIDE_M && passes(engine, n, course))) break
    measureLine(engine, n)
    const begins = (world.corner[n] & PASSAGE) !== 0
    if (isStop) makeFor(engine, n, world.mark[n] + 1)
    world.point[n]++
    // Where a passage begins, walking ends: the next step is through it. A stop is for the brief to decide on.
    if (isStop || begins) {
      world.wantX[n] = distance > 1e-9 ? dx / distance : world.headX[n]
      world.wantY[n] = distance > 1e-9 ? dy / distance : world.headY[n]
      world.wantSpeed[n] = Math.min(world.speed[n], world.cornerMps[n] > 0 ? world.gaitMps[n] : 0)
      return
    }
  }
  measureLine(engine, n)
  world.wantX[n] = dx / distance
  world.wantY[n] = dy / distance
  world.wantSpeed[n] = world.gaitMps[n]
  const most = world.cornerMps[n]
  // A stop that is passed without a halt is left as soon as it counts as made: by then one is as slow as its bend asks.
  const left = (world.corner[n] & STOP) !== 0 && most > 0 && world.mark[n] === world.leg[n] ? world.arrivalM[n] : HERE_M
  const toCorner = speedBefore(most, distance - left, powers.brakeMps2)
  holdBack(engine, n, Math.max(0.15, toCorner), (world.corner[n] & LAST) !== 0 ? LIMIT.arrival : LIMIT.corner)
  overCover(engine, n)
  if (engine.t < world.asideUntil[n]) {
    world.wantX[n] = world.asideX[n]
    world.wantY[n] = world.asideY[n]
    world.wantSpeed[n] = Math.min(world.wantSpeed[n], 0.8)
  }
}

/** Covers slow down, or speed up. */
export function overCover(engine: Engine, n: number): void {
  const { world, scenario } = engine
  if (!scenario.covered) return
  const factor = coverAt(scenario.level.covers, world.x[n], world.y[n])?.speedFactor ?? 1
  if (factor < 1)
    holdBack(
      engine,
      n,
      world.courses[n]!.gait[Math.min(world.point[n], world.courses[n]!.count - 1)] * factor,
      LIMIT.cover,
    )
  else if (factor > 1 && world.limit[n] === LIMIT.nothing) world.wantSpeed[n] *= factor
}

/** How far one is off the line, and how far along it, on the piece one is on. */
function measureLine({ world }: Engine, n: number): void {
  const ax = world.startX[n]
  const ay = world.startY[n]
  const ux = world.cornerX[n] - ax
  const uy = world.cornerY[n] - ay
  const length2 = ux * ux + uy * uy
  const share = length2 > 0 ? Math.min(1, Math.max(0, ((world.x[n] - ax) * ux + (world.y[n] - ay) * uy) / length2)) : 0
  const ex = ax + share * ux - world.x[n]
  const ey = ay + share * uy - world.y[n]
  world.along[n] = world.startS[n] + share * (world.cornerS[n] - world.startS[n])
  world.offLine[n] = Math.sqrt(ex * ex + ey * ey)
}

/** Is a corner of the way behind somebody who was pushed aside, and the next one straight ahead? */
function passes(engine: Engine, n: number, course: Course): boolean {
  const { world } = engine
  // A passage begins and ends where it does, and the stop being made for is come to.
  if (world.corner[n] !== 0) return false
  const k = world.point[n]
  const nx = course.x[k + 1]
  const ny = course.y[k + 1]
  const ux = nx - course.x[k]
  const uy = ny - course.y[k]
  // Beyond it along the next piece: who is still coming to it has not passed it.
  const beyond = (world.x[n] - course.x[k]) * ux + (world.y[n] - course.y[k]) * uy
  if (beyond < BEYOND_M * Math.sqrt(ux * ux + uy * uy)) return false
  const spot = spotOf(engine, n)
  return spot !== undefined && engine.profileOf(n).walker.walk(spot, world.x[n], world.y[n], nx, ny)
}

/** How much farther from a stop one has arrived because others stand at it: they take up so much room. */
function crowdM({ world, near }: Engine, n: number, sx: number, sy: number): number {
  let standing = 0
  const count = near.about(sx, sy, AT_STOP_M)
  for (let k = 0; k < count; k++) {
    const m = near.found[k]
    if (m === n || world.state[m] === STATE.walking || world.state[m] === STATE.crossing) continue
    if (Math.abs(world.z[m] - world.z[n]) > world.height[n]) continue
    if (exact.hypot(world.x[m] - sx, world.y[m] - sy) < AT_STOP_M) standing++
  }
  return standing === 0 ? 0 : 2.1 * world.radius[n] * Math.sqrt(standing)
}

/** Turns somebody who pauses the way the stop says, or lets them look around. */
function face(engine: Engine, n: number): void {
  const { world, t } = engine
  if (world.faces[n] === 1) {
    world.wantX[n] = world.faceX[n]
    world.wantY[n] = world.faceY[n]
    return
  }
  const row = engine.rowOf(n)
  const stop = row?.route?.stops[row.route.order[world.toStop[n]]]
  if (!stop) return
  let facing = stop.facingRad
  if (stop.look) {
    const { fromRad, toRad } = stop.look
    const mid = (fromRad + toRad) / 2
    // There and back between the two directions, beginning in the middle.
    facing = mid + ((toRad - fromRad) / 2) * exact.sin(2 * Math.PI * LOOKS_HZ * (t - world.pauseSince[n]))
  }
  if (facing === null) return
  world.wantX[n] = exact.cos(facing)
  world.wantY[n] = exact.sin(facing)
}

/** Those who pursue their line aim at a place ahead on it (Coulter 1992), as fast as the course allows. */
function pursue(engine: Engine, n: number, course: Course): void {
  const { world } = engine
  const { profile, powers } = engine.profileOf(n)
  const { x, y, headX, headY, speed } = world
  const lookM = Math.max(LOOK_M, 0.5 * powers.turnM) + (LOOK_S + LOOK_LAG * powers.lagS) * speed[n]
  follow(engine, n, course)
  world.wantSpeed[n] = Infinity
  const k = world.point[n]
  holdBack(engine, n, world.gaitMps[n], LIMIT.nothing)
  // A little later than is known: one step, and what the brakes need to grip.
  const brake = powers.brakeMps2 * 0.9
  const mps = speedBefore(world.cornerMps[n], world.cornerS[n] - world.along[n], brake)
  holdBack(engine, n, Math.max(powers.slowestMps, mps), (world.corner[n] & LAST) !== 0 ? LIMIT.arrival : LIMIT.corner)
  overCover(engine, n)
  const at = placeAt(course, world.along[n] + lookM, k)
  let tx = at[0] - x[n]
  let ty = at[1] - y[n]
  if (engine.t < world.asideUntil[n]) {
    // To the right of its line by about its own width.
    const d = exact.hypot(tx, ty) || 1
    const side = 2.2 * profile.radiusM
    tx += (ty / d) * side
    ty -= ((at[0] - x[n]) / d) * side
    const mps = engine.profileOf(n).body.backsUp ? 0 : Math.max(powers.slowestMps, 1)
    world.wantSpeed[n] = Math.min(world.wantSpeed[n], mps)
  }
  const ahead = tx * headX[n] + ty * headY[n]
  const left = -tx * headY[n] + ty * headX[n]
  const d2 = Math.max(1e-6, tx * tx + ty * ty)
  // Behind: as tightly as it can, to the nearer side.
  const curve = ahead > 0 ? (2 * left) / d2 : (left >= 0 ? 1 : -1) * 1e3
  const most = mostCurve(engine, n)
  world.wantCurve[n] = Math.max(-most, Math.min(most, curve))
  if (Math.abs(curve) > most) {
    // The line bends more than it can at this speed: slower, down to what its smallest circle allows.
    const tight = Math.min(Math.abs(curve), powers.turnM > 0 ? 1 / powers.turnM : Infinity)
    const mps = Math.min(Math.sqrt(powers.sideMps2 / tight), powers.turnRadps / tight)
    holdBack(engine, n, Math.max(powers.slowestMps, 0.4, mps), LIMIT.grip)
  }
  world.wantZ[n] = heightAhead(engine, n, course, k)
}

/** Greatest curvature a body can steer at its speed: smallest circle, turning rate, and grip, all on the cover there. */
export function mostCurve(engine: Engine, n: number): number {
  const { world, scenario } = engine
  const { powers } = engine.profileOf(n)
  const v = Math.max(0.05, world.speed[n])
  let grip = powers.sideMps2
  if (scenario.covered) grip *= coverAt(scenario.level.covers, world.x[n], world.y[n])?.grip ?? 1
  return Math.min(powers.turnM > 0 ? 1 / powers.turnM : Infinity, powers.turnRadps / v, grip / (v * v))
}

/** Brings the place along the course up to date, and notes stops that have been passed, near enough or too far off. */
function follow(engine: Engine, n: number, course: Course): void {
  const { world } = engine
  const { packed, count } = course
  const x = world.x[n]
  const y = world.y[n]
  const before = world.along[n]
  const k = Math.max(1, world.point[n])
  let best = Infinity
  let along = before
  let at = k
  for (let p = k, q = PACK * (k - 1); p < count && packed[q + 2] <= before + STEP_M; p++, q += PACK) {
    const ax = packed[q] - x
    const ay = packed[q + 1] - y
    const ux = packed[q + PACK] - packed[q]
    const uy = packed[q + PACK + 1] - packed[q + 1]
    const length2 = ux * ux + uy * uy
    const share = length2 > 0 ? Math.min(1, Math.max(0, -(ax * ux + ay * uy) / length2)) : 0
    const ex = ax + share * ux
    const ey = ay + share * uy
    const m2 = ex * ex + ey * ey
    if (m2 >= best) continue
    const s = packed[q + 2] + share * (packed[q + PACK + 2] - packed[q + 2])
    if (s < before - 1e-6) continue
    best = m2
    along = s
    at = p
  }
  if (best < Infinity) world.offLine[n] = Math.sqrt(best)
  world.along[n] = along
  world.point[n] = at
  if (world.loaded[n] !== at) loadPiece(engine, n, course)
  if (engine.profileOf(n).body.keepsLane) comesOnRails(engine, n, course)
  pastGoal(engine, n, course)
}

/** Notes that the next stop has been come to, or passed, near enough or too far off. */
export function pastGoal(engine: Engine, n: number, course: Course): void {
  const { world } = engine
  const { along } = world
  const mark = world.mark[n]
  const toStop = world.goalS[n] - along[n]
  const dx = world.goalX[n] - world.x[n]
  const dy = world.goalY[n] - world.y[n]
  const distance = Math.sqrt(dx * dx + dy * dy)
  const halts = world.goalMps[n] === 0 && engine.profileOf(n).powers.slowestMps === 0
  const arrives = mark === world.leg[n] ? world.arrivalM[n] : PASSES_M
  const stands = world.speed[n] < 0.05 && distance < arrives + crowdM(engine, n, world.goalX[n], world.goalY[n])
  if (halts ? !(distance <= Math.min(arrives, 0.4) || stands || toStop <= 1e-6) : distance > arrives && toStop > 1e-6)
    return
  if (mark >= course.marks.length) return
  if (distance > Math.max(arrives, PASSES_M)) {
    engine.log(n, 'missed', course.marks[mark].stop, Math.round(distance * 1000))
    world.missed[n]++
  }
  makeFor(engine, n, mark + 1)
}

/** The height a flyer makes for, metres: that of its line, and no faster ahead than it can climb. */
function heightAhead(engine: Engine, n: number, course: Course, k: number): number {
  const { world } = engine
  const row = engine.profileOf(n)
  if (row.body.medium !== 'air') return world.z[n]
  const { climbMps } = row.profile
  const length = course.s[k] - course.s[k - 1]
  const share = length > 1e-9 ? Math.min(1, (world.along[n] - course.s[k - 1]) / length) : 1
  const z = course.z[k - 1] + (course.z[k] - course.z[k - 1]) * share
  const rise = Math.abs(course.z[k] - world.z[n])
  const left = Math.max(0.5, course.s[k] - world.along[n])
  if (rise > 0.5) holdBack(engine, n, Math.max(row.powers.slowestMps, (left * climbMps) / rise), LIMIT.slope)
  return Math.max(z, lowestAhead(engine, n, course, k))
}

/** Rises are looked for at so many places ahead, as far as it flies in so many seconds. */
const LOOKED_AT = 6
const AHEAD_S = 3

/** The height it has to have soon, for what rises ahead under its course; slower, where it could not climb in time. */
function lowestAhead(engine: Engine, n: number, course: Course, k: number): number {
  const { world } = engine
  const { planner, powers, profile } = engine.profileOf(n)
  const { map } = planner
  const aheadM = Math.max(4, world.speed[n] * AHEAD_S)
  let low = -Infinity
  for (let q = 1; q <= LOOKED_AT; q++) {
    const m = (aheadM * q) / LOOKED_AT
    const at = placeAt(course, world.along[n] + m, k)
    const spot = map.floorAt(at[0], at[1], 1e6)
    if (!spot) continue
    const floor = map.zOf(spot)
    const rise = floor - world.z[n]
    if (rise <= 0) continue
    low = Math.max(low, floor)
    const mps = (Math.max(0.2, m - profile.radiusM) * profile.climbMps) / rise
    holdBack(engine, n, Math.max(powers.slowestMps, mps), LIMIT.slope)
  }
  return low
}
