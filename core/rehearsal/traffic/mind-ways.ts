import { lightAt, type PlanConflict, type PlanWay } from '@tidytrail/core/traffic'
import { speedBefore, type Course } from '../course'
import type { Engine } from '../engine'
import { LIMIT } from '../events'
import { holdBack } from '../travel'
import { driverOf, follow, STANDS_MPS, whoIsAhead } from './drive'

/** Why one is held before a way. */
export const HELD = { not: 0, signal: 1, 'give-way': 2, 'kept-clear': 3 } as const

/** Before a crossing where those who walk see lights too one stops so much farther off, metres. */
const BEFORE_CROSSING_M = 0.3
/** One stops so far before a line, metres; who stands so near to it stands at it. */
const BEFORE_LINE_M = 0.3
const AT_LINE_M = 2.5
/** At a stop sign it is stood for so long, seconds. */
const STOPS_S = 0.5
/** Ways are minded so far beyond where one could stop, metres. */
const BEYOND_M = 6
/** Amber is heeded by those who can stop without braking harder than this, metres a second squared. */
export const AMBER_MPS2 = 3.5
/** So long has to lie between one who leaves a conflict and another who comes, seconds; less behind one who leaves it. */
const BETWEEN_S = 1
const AFTER_S = 0.4
/** With who is in front beyond a junction as fast as this it is not waited until there is room, metres a second. */
const MOVES_MPS = 3

/** Minds the junctions and merges ahead of somebody: lights, lines, and who else is in them. */
export function mindWays(engine: Engine, n: number, course: Course): void {
  const { world, scenario } = engine
  const { pieces, mostRedM } = scenario.traffic
  const track = course.track!
  world.heldWhy[n] = HELD.not
  world.heldAt[n] = 0
  const v = world.speed[n]
  const { brakeMps2 } = driverOf(engine.profileOf(n))
  const look = (v * v) / (2 * brakeMps2) + v + BEYOND_M + world.radius[n]
  let base = 0
  for (let leg = world.onLeg[n]; leg < track.piece.length && base < look + mostRedM; leg++) {
    const number = track.piece[leg]
    const from = leg === world.onLeg[n] ? world.pieceM[n] : track.fromM[leg]
    if (number < 0) return
    for (const way of pieces[number]?.ways ?? []) {
      // What lies on the rest of a lane that is left before is not come to.
      if (way.toM < from || way.fromM > track.toM[leg] + 1e-6) continue
      const farM = base + way.fromM - from
      if (farM > look + mostRedM) break
      // Where one waits at red may be nearer than where the way begins.
      if (farM - way.redM > look) continue
      if (!mindWay(engine, n, course, leg, way, base - from)) return
    }
    base += track.toM[leg] - from
  }
}

/** Stops so far ahead, metres from one's middle to where that is to stand. */
export function stopAt(engine: Engine, n: number, aheadM: number, limit: number, by = 0): void {
  const { world, scenario } = engine
  const { brakeMps2 } = driverOf(engine.profileOf(n))
  // What it drives during this step is driven already.
  const free = Math.max(0, aheadM - world.speed[n] * scenario.stepS)
  const mps = free < 0.02 ? 0 : Math.max(speedBefore(0, free, brakeMps2), Math.min(0.3, free))
  holdBack(engine, n, mps, limit, by)
}

function hold(engine: Engine, n: number, way: PlanWay, why: 1 | 2 | 3, aheadM: number, by = 0): false {
  const { world } = engine
  world.heldWhy[n] = why
  world.heldAt[n] = way.number + 1
  stopAt(engine, n, aheadM, why === 1 ? LIMIT.signal : why === 2 ? LIMIT['give-way'] : LIMIT['kept-clear'], by)
  return false
}

/**
 * Minds one way. @param base what lies between the middle of the body and a place on the way's piece is that place and this
 * @returns is it gone on to, so that what lies beyond is to be minded too?
 */
function mindWay(engine: Engine, n: number, course: Course, leg: number, way: PlanWay, base: number): boolean {
  const { world, t } = engine
  const { junction } = way
  const lineM = base + way.fromM - world.radius[n] - BEFORE_LINE_M
  const v = world.speed[n]
  const entered = lineM < -0.5
  const redM = way.redM > 0 ? lineM - way.redM - BEFORE_CROSSING_M : lineM
  if (junction?.control === 'signals') {
    const light = redM < -0.5 ? 'green' : lightAt(junction, way.id, t)
    const stops = light === 'red' || (light === 'amber' && v * v <= 2 * AMBER_MPS2 * Math.max(0, redM))
    if (stops) return hold(engine, n, way, HELD.signal, redM)
  }
  if (!entered && junction) {
    if (junction.keepClear && way.conflicts.length > 0 && !leadsRound(engine, way)) {
      const blockedBy = noRoomBeyond(engine, n, course, leg, way)
      if (blockedBy >= 0)
        return hold(engine, n, way, HELD['kept-clear'], redM < -0.5 ? lineM : redM, world.key[blockedBy])
    }
  }
  for (const c of way.conflicts) mindConflict(engine, n, way, c, base, entered, lineM)
  const waitM = base + way.waitM - (way.waitM === way.fromM ? world.radius[n] + BEFORE_LINE_M : 0)
  if (world.goes[n] !== way.number + 1 && waitM > -0.5) {
    const by = mayGo(engine, n, way, base, waitM)
    if (by !== 0) return hold(engine, n, way, HELD['give-way'], waitM, Math.max(0, by))
    // Near enough not to stop any more: from now on it goes.
    const { brakeMps2 } = driverOf(engine.profileOf(n))
    if (waitM < (v * v) / (2 * brakeMps2) + 2 * v * engine.scenario.stepS + 0.3) {
      world.goes[n] = way.number + 1
      world.stoodSince[n] = 0
    }
  }
  return true
}

/** Is a way a whole round, that is never left by its end? */
function leadsRound({ scenario }: Engine, { piece, fromM, toM }: PlanWay): boolean {
  const of = scenario.traffic.pieces[piece]
  return of !== undefined && of.closed && toM - fromM > of.lengthM - 0.01
}

/** May one go on over the line of a way? @returns 0 for yes; else the key of who is waited for, or −1 for nobody */
function mayGo(engine: Engine, n: number, way: PlanWay, base: number, waitM: number): number {
  const { world, t } = engine
  if (way.stops) {
    if (world.stoodSince[n] === 0 && world.speed[n] < STANDS_MPS && waitM < AT_LINE_M) world.stoodSince[n] = t
    if (world.stoodSince[n] === 0 || t - world.stoodSince[n] < STOPS_S) return -1
  }
  for (const c of way.conflicts) {
    if (base + c.toM < 0) continue
    const by = c.how === 'gives-way' ? whoComes(engine, n, way, c, base) : c.how === 'all-way' ? whoStood(engine, n, c) : -1 // prettier-ignore
    if (by >= 0) return world.key[by]
  }
  return 0
}

/** How far it is on to a place of the piece somebody is on: round once more where that is a round and lies behind. */
function onTo({ world, scenario }: Engine, m: number, placeM: number, lengthM: number): number {
  const piece = scenario.traffic.pieces[world.piece[m]]
  let far = placeM - world.pieceM[m]
  if (piece?.closed) {
    while (far < 0) far += lengthM
    while (far > lengthM) far -= lengthM
  }
  return far
}

/** Seconds a body needs for so many metres from its speed on, speeding up as far as it may. */
export function takesS(m: number, mps: number, accelMps2: number, topMps: number): number {
  if (m <= 0) return 0
  const top = Math.max(topMps, mps, 0.1)
  const upM = (top * top - mps * mps) / (2 * accelMps2)
  if (m <= upM) return (Math.sqrt(mps * mps + 2 * accelMps2 * m) - mps) / accelMps2
  return (top - mps) / accelMps2 + (m - upM) / top
}

/**
 * Seconds until one is out of a conflict. Who comes faster than the bend can be driven slows down on the way to it, at
 * the mean of both speeds.
 * @param beginsM how far it is to where the bend begins @param outM and to where it is out, metres
 */
function outOfS(beginsM: number, outM: number, mps: number, accelMps2: number, bendMps: number): number {
  if (mps <= bendMps) return takesS(outM, mps, accelMps2, bendMps)
  const slowingM = Math.min(outM, Math.max(0, beginsM))
  return slowingM / ((mps + bendMps) / 2) + Math.max(0, outM - slowingM) / Math.max(0.1, bendMps)
}

/** Who comes so that one may not go before it. @returns −1 for nobody */
function whoComes(engine: Engine, n: number, way: PlanWay, c: PlanConflict, base: number): number {
  const { world, order, scenario } = engine
  const { powers } = engine.profileOf(n)
  const top = Math.min(world.gaitMps[n], Math.sqrt(powers.sideMps2 * way.tightM))
  const accel = powers.accelMps2
  const outS = outOfS(base + way.fromM, base + c.toM, world.speed[n], accel, top)
  const inS = takesS(base + c.fromM, world.speed[n], accel, top)
  const spanM = c.otherToM - c.otherFromM
  // Who is in it now.
  const within = (m: number): boolean => {
    const left = onTo(engine, m, c.otherToM, scenario.traffic.pieces[c.way.piece]?.lengthM ?? 0)
    return left >= 0 && left < spanM && inS < left / Math.max(0.5, world.speed[m]) + AFTER_S
  }
  for (let q = order.begin(c.way.piece); q < order.end(c.way.piece); q++) {
    const m = order.slots[q]
    if (m !== n && within(m) && !(c.merging && world.speed[m] > 1)) return m
  }
  for (const w of c.watched) {
    for (let q = order.end(w.piece) - 1; q >= order.begin(w.piece); q--) {
      const m = order.slots[q]
      const at = order.at[q]
      if (at > w.toM || m === n) continue
      if (at < w.fromM) break
      if (!comes(engine, m, c)) continue
      const other = engine.profileOf(m)
      const farM = w.aheadM + w.toM - at
      const itsS = takesS(farM, world.speed[m], other.powers.accelMps2, world.gaitMps[m])
      if (itsS > outS + BETWEEN_S) continue
      // It may be slower by then, for the bend of its way.
      const bendMps = Math.sqrt(other.powers.sideMps2 * c.way.tightM)
      const goneS = (farM + spanM) / Math.max(0.5, Math.min(world.speed[m], bendMps))
      if (inS > goneS + AFTER_S) continue
      return m
    }
  }
  return -1
}

/** Is somebody on the way to a way, as far as can be told, and not waiting before it? */
function comes({ world }: Engine, m: number, { way, otherFromM, otherToM, watched }: PlanConflict): boolean {
  const why = world.heldWhy[m]
  if (why === HELD.signal || world.queued[m] === 1 || (why !== HELD.not && world.speed[m] < STANDS_MPS)) return false
  const track = world.courses[m]?.track
  if (!track) return true
  for (let k = world.onLeg[m]; k < track.piece.length; k++) {
    if (track.piece[k] !== way.piece || track.toM[k] <= otherFromM) continue
    if ((k === world.onLeg[m] ? world.pieceM[m] : track.fromM[k]) < otherToM) return true
  }
  // Somebody whose course ends before may come: where it ends it is still watched, or it has turned off.
  const last = track.piece[track.piece.length - 1]
  return last === way.piece || watched.some((w) => w.piece === last)
}

/** Who stood at its line before. @returns −1 for nobody */
function whoStood(engine: Engine, n: number, c: PlanConflict): number {
  const { world, order } = engine
  const number = c.way.number + 1
  const lineM = c.way.fromM
  for (const w of c.watched)
    for (let q = order.end(w.piece) - 1; q >= order.begin(w.piece); q--) {
      const m = order.slots[q]
      if (order.at[q] > w.toM || m === n) continue
      if (order.at[q] < w.fromM) break
      if (goesOver(engine, m, c.way)) return m
      if (world.heldAt[m] !== number || world.stoodSince[m] === 0 || world.speed[m] >= STANDS_MPS) continue
      const first = world.stoodSince[m] - world.stoodSince[n]
      if (first < 0 || (first === 0 && world.key[m] < world.key[n])) return m
    }
  // And who is on its way through.
  for (let q = order.begin(c.way.piece); q < order.end(c.way.piece); q++) {
    const m = order.slots[q]
    if (m !== n && world.pieceM[m] >= lineM && world.pieceM[m] < c.otherToM) return m
  }
  return -1
}

/** Has somebody looked and goes: over a way, or over one farther on that it comes to by this one? */
function goesOver({ world, scenario }: Engine, m: number, way: PlanWay): boolean {
  const number = world.goes[m]
  if (number === way.number + 1) return true
  const later = scenario.traffic.ways[number - 1]
  const track = world.courses[m]?.track
  if (!later || !track) return false
  let leadsOver = false
  for (let k = world.onLeg[m]; k < track.piece.length; k++) {
    const from = k === world.onLeg[m] ? world.pieceM[m] : track.fromM[k]
    const to = track.toM[k] + 1e-6
    if (track.piece[k] === way.piece && from <= way.toM && way.fromM <= to) leadsOver = true
    if (track.piece[k] === later.piece && from <= later.fromM && later.fromM <= to) return leadsOver
  }
  return false
}

/** Minds who is in a conflict, or about to be there having looked. */
function mindConflict(
  engine: Engine,
  n: number,
  way: PlanWay,
  c: PlanConflict,
  base: number,
  entered: boolean,
  lineM: number,
): void {
  const { world, order, scenario } = engine
  const outM = base + c.toM
  const inM = base + c.fromM
  if (outM < 0) return
  const lengthM = scenario.traffic.pieces[c.way.piece]?.lengthM ?? 0
  const spanM = c.otherToM - c.otherFromM
  for (let q = order.begin(c.way.piece); q < order.end(c.way.piece); q++) {
    const m = order.slots[q]
    if (m === n) continue
    const left = onTo(engine, m, c.otherToM, lengthM)
    if (left < 0) continue
    const inside = left < spanM
    const goes = goesOver(engine, m, c.way)
    if (c.how === 'signal' && !entered && left < c.otherToM - c.way.fromM) {
      // It came in on a green that is over, and is still inside.
      stopAt(engine, n, lineM, LIMIT['give-way'], world.key[m])
      continue
    }
    if (c.merging) {
      // Who is nearer to where both are one is in front.
      const counts = inside || goes || c.how === 'nearest'
      const nearer = left < outM || (left === outM && world.key[m] < world.key[n])
      if (!counts || !nearer || (c.how === 'nothing' && !inside)) continue
      const gapM = outM - left - world.radius[n] - world.radius[m]
      // Not yet beside each other: it falls in behind.
      follow(engine, n, m, inM > 0 ? Math.max(gapM, inM - 0.3) : gapM, driverOf(engine.profileOf(n)), scenario.stepS)
      continue
    }
    if (inM <= 0) continue
    if (inside) {
      stopAt(engine, n, inM - BEFORE_LINE_M, LIMIT['give-way'], world.key[m])
      continue
    }
    if (!goes || c.how === 'nothing') continue
    // It has looked and goes: unless one is through before it is there.
    const other = engine.profileOf(m).powers
    const itsS = takesS(left - spanM, world.speed[m], other.accelMps2, world.gaitMps[m])
    const outS = takesS(outM, world.speed[n], engine.profileOf(n).powers.accelMps2, world.gaitMps[n])
    if (world.goes[n] === way.number + 1 && world.key[n] < world.key[m]) continue
    if (outS + AFTER_S > itsS) stopAt(engine, n, inM - BEFORE_LINE_M, LIMIT['give-way'], world.key[m])
  }
}

/** Who is in the way of leaving a junction again. @returns −1 where there is room */
function noRoomBeyond(engine: Engine, n: number, course: Course, leg: number, way: PlanWay): number {
  const { world } = engine
  const track = course.track!
  // From the end of the way on.
  const within = way.toM <= track.toM[leg] - 0.01
  const next = within ? leg : leg + 1
  if (next >= track.piece.length || track.piece[next] < 0) return -1
  const fromM = within ? way.toM : track.fromM[next]
  const { gapM } = driverOf(engine.profileOf(n))
  const needM = 2 * world.radius[n] + gapM
  const { slot, m } = whoIsAhead(engine, track, next, fromM, 3 * needM, n)
  if (slot < 0 || world.speed[slot] > MOVES_MPS) return -1
  let room = m - world.radius[slot]
  // Who is in the junction already, on the same way out, has its room first.
  const { order } = engine
  for (let q = order.begin(way.piece); q < order.end(way.piece); q++) {
    const other = order.slots[q]
    const at = world.pieceM[other]
    if (other !== n && at > way.fromM && at <= way.toM) room -= 2 * world.radius[other] + gapM
  }
  for (const c of way.conflicts) {
    if (!c.merging) continue
    for (let q = order.begin(c.way.piece); q < order.end(c.way.piece); q++) {
      const other = order.slots[q]
      const at = world.pieceM[other]
      if (at > c.way.fromM && at <= c.way.toM) room -= 2 * world.radius[other] + gapM
    }
  }
  return room < needM ? slot : -1
}
