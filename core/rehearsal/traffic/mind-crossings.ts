import { lightAt, longestS, nearestOnLine, OVER_M, untilNextS, walkS, type PlanCrossing } from '@tidytrail/core/traffic'
import { speedBefore, type Course, type Over } from '../course'
import type { Engine } from '../engine'
import { LIMIT } from '../events'
import { holdBack } from '../travel'
import { STATE } from '../world'
import { driverOf, whoIsAhead } from './drive'
import { AMBER_MPS2, stopAt, takesS } from './mind-ways'

/** Vehicles stop so far before a crossing, and those who walk so far before a kerb, metres. */
const BEFORE_CROSSING_M = 0.6
const BEFORE_KERB_M = 0.2
/** Who is this near to it has not stopped before it, metres. */
const EDGE_M = 0.1
/** Who is so near to the kerb means to cross, metres. */
const AT_KERB_M = 2
/** A vehicle that need brake no harder than this is trusted to stop, metres a second squared. */
const TRUSTED_MPS2 = 2.5
/** Slower than this it stands, metres a second. */
const STANDS_MPS = 0.3
/** So long has to lie between one who is over and a vehicle that comes, and between a vehicle that is gone and one who comes, seconds. */
const BETWEEN_S = 1
const AFTER_S = 0.4
/** Crossings are minded so far beyond where one could stop, metres. */
const BEYOND_M = 6
/**
 * Nobody waits longer than this at a kerb for what stands on the crossing or before it, seconds: it may wait for those who
 * cannot get off the crossing for the crowd at the kerb.
 */
const PATIENCE_S = 5
/** With green too short to get over it is set out within so long of its beginning, seconds. */
const STEPS_ON_S = 1
/** Behind a crossing there has to be so much room more than a body is long, metres. */
const ROOM_M = 0.3

/** Somebody on a crossing, or about to step onto it. */
interface Crosser {
  readonly n: number
  /** How far along the crossing it is, metres; below 0 or beyond its end before it is on it. */
  readonly m: number
  /** Does it go as the crossing leads, or back? */
  readonly way: 1 | -1
  readonly on: boolean
}

const NOBODY: readonly Crosser[] = []
/** Who crosses now, by the numbers of crossings: noted anew at every step. */
let crossers: (Crosser[] | undefined)[] = []

/** The crossing a course leads over next, or that one is on. */
function nextOver(course: Course, along: number): Over | undefined {
  for (const over of course.overs) if (over.toS > along) return over
  return undefined
}

/** Notes who is on a crossing or at its kerb: those whose course leads over it, who stands on it, and stand-ins that are steered onto it. */
export function noteWhoCrosses({ world, scenario }: Engine): void {
  const { crossings } = scenario.traffic
  crossers = []
  const note = (crossing: number, who: Crosser): void => void (crossers[crossing] ??= []).push(who)
  for (let n = 0; n < world.count; n++) {
    if (world.key[n] === 0 || world.rail[n] === 1) continue
    if (world.state[n] !== STATE.walking) {
      const [x, y] = [world.x[n], world.y[n]]
      for (const crossing of crossings) {
        if (!crossing) continue
        const { box, line, number } = crossing
        if (x < box.minX - AT_KERB_M || x > box.maxX + AT_KERB_M || y < box.minY - AT_KERB_M || y > box.maxY + AT_KERB_M) continue // prettier-ignore
        const steered = steeredOver(line.places, world.vx[n], world.vy[n])
        const { m, farM, at: near } = nearestOnLine(line, [x, y, world.z[n]])
        if (Math.abs(near[2] - world.z[n]) >= OVER_M) continue
        const on = m > 0 && m < line.lengthM
        if (farM > (on ? crossing.widthM / 2 : AT_KERB_M)) continue
        const at = on ? m : m === 0 ? -farM : m + farM
        if (on || steered * (m === 0 ? 1 : -1) > 0.3) note(number, { n, m: at, way: steered < 0 ? -1 : 1, on })
      }
      continue
    }
    const course = world.courses[n]
    if (!course || course.overs.length === 0 || world.state[n] !== STATE.walking) continue
    const over = nextOver(course, world.along[n])
    const crossing = over && crossings[over.crossing]
    if (!crossing || world.along[n] < over.fromS - AT_KERB_M) continue
    const gone = ((world.along[n] - over.fromS) / Math.max(0.1, over.toS - over.fromS)) * crossing.line.lengthM
    note(over.crossing, {
      n,
      m: over.back ? crossing.line.lengthM - gone : gone,
      way: over.back ? -1 : 1,
      on: world.along[n] >= over.fromS,
    })
  }
}

/** How fast one who is steered goes the way a crossing leads, metres a second. */
function steeredOver(places: PlanCrossing['line']['places'], vx: number, vy: number): number {
  const [a, b] = [places[0], places[places.length - 1]]
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]]
  return (vx * dx + vy * dy) / Math.max(1e-9, Math.sqrt(dx * dx + dy * dy))
}

/** Minds the crossings ahead of one who drives: who is on them, who may go first, and whether there is room beyond. */
export function mindCrossings(engine: Engine, n: number, course: Course): void {
  const { world, scenario } = engine
  const { pieces, crossings } = scenario.traffic
  if (crossings.length === 0) return
  const track = course.track!
  const v = world.speed[n]
  const { brakeMps2 } = driverOf(engine.profileOf(n))
  const look = (v * v) / (2 * brakeMps2) + v + BEYOND_M + world.radius[n]
  let base = 0
  for (let leg = world.onLeg[n]; leg < track.piece.length && base < look; leg++) {
    const from = leg === world.onLeg[n] ? world.pieceM[n] : track.fromM[leg]
    const piece = track.piece[leg] < 0 ? undefined : pieces[track.piece[leg]]
    if (!piece) return
    for (const { crossing, over } of piece.crossings) {
      const { drive } = over
      if (drive.toM < from || drive.fromM > track.toM[leg] + 1e-6) continue
      const at = base - from
      if (at + drive.fromM > look) break
      const lineM = at + drive.fromM - world.radius[n] - BEFORE_CROSSING_M
      // Its front is on it already: it gets off it.
      if (lineM < -BEFORE_CROSSING_M) continue
      const beyond = Math.min(drive.toM, track.toM[leg])
      const needM = 2 * world.radius[n] + ROOM_M
      const { slot, m } = whoIsAhead(engine, track, leg, beyond, needM + 4, n)
      if (slot >= 0 && world.speed[slot] < STANDS_MPS && m - world.radius[slot] < needM)
        stopAt(engine, n, lineM, LIMIT['kept-clear'], world.key[slot])
      for (const who of crossers[crossing] ?? NOBODY)
        if (waitsFor(engine, n, who, crossings[crossing]!, over, lineM, at)) {
          stopAt(engine, n, lineM, LIMIT.crossing, world.key[who.n])
          break
        }
    }
    base += track.toM[leg] - from
  }
}

/** Does one who drives wait for somebody who crosses? */
function waitsFor(
  engine: Engine,
  n: number,
  { n: m, m: placeM, way, on }: Crosser,
  { waits, number, lit, laneId }: PlanCrossing,
  { walk, drive }: PlanCrossing['over'][number] | Omit<PlanCrossing['over'][number], 'piece' | 'watched'>,
  lineM: number,
  at: number,
): boolean {
  const { world } = engine
  // From its body to the lane, and until it is out of it.
  const inM = (way === 1 ? walk.fromM - placeM : placeM - walk.toM) - world.radius[m]
  const outM = (way === 1 ? walk.toM - placeM : placeM - walk.fromM) + world.radius[m]
  if (outM <= 0) return false
  const v = world.speed[n]
  if (!on) {
    const minded = waits === 'vehicles' && (!lit || lightAt(lit, laneId, engine.t) === 'green')
    if (!minded && world.goes[m] !== number + 1) return false
    // Who could no longer stop in time goes on, and is waited for.
    if (v * v > 2 * AMBER_MPS2 * Math.max(0, lineM + BEFORE_CROSSING_M - EDGE_M)) return false
  }
  if (inM <= 0) return true
  const { powers } = engine.profileOf(n)
  const goneS = takesS(at + drive.toM + world.radius[n], v, powers.accelMps2, world.gaitMps[n])
  return goneS + AFTER_S > inM / Math.max(1, world.gaitMps[m])
}

/** Lets those who walk wait at the kerb until nobody comes who would not stop, or until there is a gap. */
export function mindVehicles(engine: Engine): void {
  const { world, scenario } = engine
  const { crossings } = scenario.traffic
  for (let n = 0; n < world.count; n++) {
    if (world.key[n] === 0 || world.rail[n] === 1 || world.state[n] !== STATE.walking) continue
    const course = world.courses[n]
    if (!course || course.overs.length === 0) continue
    const over = nextOver(course, world.along[n])
    const crossing = over && crossings[over.crossing]
    const toKerbM = over ? over.fromS - world.along[n] : 0
    if (!crossing || toKerbM <= 0) {
      // Whoever is on it has looked; for the next it looks anew.
      world.goes[n] = world.stoodSince[n] = 0
      continue
    }
    if (world.goes[n] === over.crossing + 1) continue
    const { brakeMps2 } = engine.profileOf(n).powers
    const stopM = toKerbM - world.radius[n] - BEFORE_KERB_M
    const v = world.speed[n]
    if (stopM > (v * v) / (2 * brakeMps2) + 0.5 * v + 0.3) {
      world.stoodSince[n] = 0
      continue
    }
    const stopsAtMps = stopM < 0.02 ? 0 : speedBefore(0, stopM, brakeMps2)
    if (!mayStepOn(crossing, engine.t)) {
      holdBack(engine, n, stopsAtMps, LIMIT.signal, 0)
      continue
    }
    const { by, stands } = whoPasses(engine, n, over, crossing, toKerbM)
    world.stoodSince[n] = !stands ? 0 : world.stoodSince[n] > 0 ? world.stoodSince[n] : engine.t
    if (by === 0) world.goes[n] = over.crossing + 1
    else holdBack(engine, n, stopsAtMps, LIMIT.traffic, by)
  }
}

/** Do those who walk have green, for long enough to get over? Where it never is long enough they set out as it begins. */
function mayStepOn(crossing: PlanCrossing, t: number): boolean {
  const { lit, laneId } = crossing
  if (!lit) return true
  const leftS = untilNextS(lit, laneId, t)
  return leftS > 0 && leftS >= Math.min(walkS(crossing), longestS(lit, laneId) - STEPS_ON_S)
}

/** Who drives by before one can cross: the key of the first that is waited for, 0 for nobody; does any of them stand? */
const passing = { by: 0, stands: false }

/** Notes one who drives by, for whom one waits unless it has stood for long. */
function notePassing({ world, t }: Engine, n: number, m: number): void {
  if (world.speed[m] < STANDS_MPS) {
    passing.stands = true
    if (world.stoodSince[n] > 0 && t - world.stoodSince[n] >= PATIENCE_S) return
  }
  if (passing.by === 0) passing.by = world.key[m]
}

/** Who drives by before one can cross. All are looked at: one who comes by must not hide one who stands. */
function whoPasses(engine: Engine, n: number, { back }: Over, crossing: PlanCrossing, toKerbM: number): typeof passing {
  const { world, order } = engine
  const mps = Math.max(0.5, world.gaitMps[n])
  passing.by = 0
  passing.stands = false
  for (const { walk, drive, piece, watched } of crossing.over) {
    const [near, far] = back
      ? [crossing.line.lengthM - walk.toM, crossing.line.lengthM - walk.fromM]
      : [walk.fromM, walk.toM]
    const inS = Math.max(0, toKerbM + near - world.radius[n]) / mps
    const outS = (toKerbM + far + world.radius[n]) / mps
    for (let q = order.begin(piece); q < order.end(piece); q++) {
      const m = order.slots[q]
      const leaves = drive.toM + world.radius[m] - order.at[q]
      if (leaves <= 0 || order.at[q] + world.radius[m] <= drive.fromM) continue
      // It is on it.
      if (leaves / Math.max(0.1, world.speed[m]) + AFTER_S > inS) notePassing(engine, n, m)
    }
    for (const w of watched) {
      for (let q = order.end(w.piece) - 1; q >= order.begin(w.piece); q--) {
        const m = order.slots[q]
        if (order.at[q] > w.toM) continue
        if (order.at[q] < w.fromM) break
        const farM = w.aheadM + w.toM - order.at[q] - world.radius[m]
        if (farM < 0) continue
        if (comesBy(engine, m, crossing.waits, farM, drive.toM - drive.fromM, inS, outS)) notePassing(engine, n, m)
      }
    }
  }
  return passing
}

/** Does one who drives towards a crossing come by while somebody would be in its lane? @param farM from its front to the crossing */
function comesBy(
  engine: Engine,
  m: number,
  waits: 'walkers' | 'vehicles',
  farM: number,
  spanM: number,
  inS: number,
  outS: number,
): boolean {
  const { world } = engine
  const v = world.speed[m]
  const row = engine.profileOf(m)
  if (waits === 'vehicles') {
    const mps2 = Math.min(TRUSTED_MPS2, row.powers.brakeMps2)
    return v >= STANDS_MPS && v * v > 2 * mps2 * Math.max(0, farM - 2 * EDGE_M)
  }
  if (takesS(farM, v, row.powers.accelMps2, world.gaitMps[m]) > outS + BETWEEN_S) return false
  const goneS = (farM + spanM + 2 * world.radius[m]) / Math.max(0.5, v)
  return goneS + AFTER_S > inS
}
