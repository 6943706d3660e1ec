import { parkedAsideM, PARKS_MPS, PARKS_SLOPE, placeAt, placeNeedsM, type Piece, type PlanHalt } from '@tidytrail/core/traffic' // prettier-ignore
import { draw, USE } from '../chance'
import { speedBefore } from '../course'
import type { Engine } from '../engine'
import { LIMIT } from '../events'
import { holdBack, spotOf } from '../travel'

/** How far somebody has come with a halt. */
const PHASE = { 'comes-up': 0, 'pulls-in': 1, stands: 2, waits: 3, 'pulls-out': 4 } as const
/** Slower than this is standing, metres a second; so near is there, metres. */
const STANDS_MPS = 0.1
const THERE_M = 0.05
/** It is thought about so early, seconds and metres before one would brake for it, and braked no harder than this. */
const EARLY_S = 2
const EARLY_M = 10
const EASY_MPS2 = 2
/** Who leaves a place keeps so much from who comes: time to notice, braking without haste, and room. */
const NOTICES_S = 1.5
const ROOM_M = 2
/** There are no more halts than this to a lane, so that one number tells a lane and one of its halts. */
const PER_LANE = 64

/** Lets somebody who is carried along a lane make the halts of that lane: on it, or in a parking place beside it. */
export function mindHalts(engine: Engine, n: number): void {
  const { world, scenario } = engine
  const piece = scenario.traffic.pieces[world.piece[n]]!
  if (world.halt[n] === 0) {
    if (piece.halts.length > 0 && world.leaves[n] === 0) thinkOf(engine, n, piece)
    if (world.halt[n] === 0) return
  }
  const halt = scenario.traffic.pieces[world.haltOn[n] - 1]?.halts[world.halt[n] - 1]
  // It was taken away, or the lane has been left: one comes back to the middle.
  if (!halt || world.piece[n] !== world.haltOn[n] - 1) return letGo(engine, n)
  if (halt.where === 'on') haltOnLane(engine, n, halt)
  else park(engine, n, piece, halt)
}

function letGo({ world }: Engine, n: number): void {
  world.halt[n] = world.haltPhase[n] = world.parked[n] = 0
  world.asideTo[n] = 0
}

/** Decides, once, whether to make the next halt ahead, and where. */
function thinkOf(engine: Engine, n: number, piece: Piece): void {
  const { world, seed } = engine
  const m = world.pieceM[n]
  const k = piece.halts.findIndex((h) => h.toM > m)
  if (k < 0) {
    world.haltSeen[n] = 0
    return
  }
  const code = piece.number * PER_LANE + k + 1
  if (world.haltSeen[n] === code) return
  const halt = piece.halts[k]
  const v = world.speed[n]
  if (halt.fromM - m > (v * v) / (2 * EASY_MPS2) + EARLY_S * v + EARLY_M) return
  world.haltSeen[n] = code
  if (halt.profileIds.length > 0 && !halt.profileIds.includes(engine.profileOf(n).id)) return
  if (halt.share < 1 && draw(seed, USE.halt, world.key[n], world.drawsHalt[n]++) >= halt.share) return
  const placeM = placeFor(engine, n, piece, halt, k)
  if (placeM === undefined) return
  world.halt[n] = k + 1
  world.haltOn[n] = piece.number + 1
  world.haltPhase[n] = PHASE['comes-up']
  world.haltM[n] = placeM
}

/** The first place that is free and that it can still come into; undefined for none. */
function placeFor({ world }: Engine, n: number, piece: Piece, halt: PlanHalt, k: number): number | undefined {
  const r = world.radius[n]
  const v = world.speed[n]
  if (halt.where === 'on') {
    const [end] = halt.placesM
    return end === undefined ? undefined : Math.max(halt.fromM, end - r)
  }
  if (halt.placeM < placeNeedsM(r) - 1e-9) return undefined
  const slantM = Math.abs(parkedAsideM(halt, halt.laneM, r)) / PARKS_SLOPE
  const brakesM = Math.max(0, v * v - PARKS_MPS * PARKS_MPS) / (2 * EASY_MPS2)
  const taken = (at: number) => {
    for (let m = 0; m < world.count; m++)
      if (m !== n && world.key[m] !== 0 && world.halt[m] === k + 1 && world.haltOn[m] === piece.number + 1 && world.haltM[m] === at) return true // prettier-ignore
    return false
  }
  // Nobody comes out of a place beyond the end of its lane.
  return halt.placesM.find(
    (at) => at - slantM >= world.pieceM[n] + brakesM && at + slantM + r <= piece.lengthM && !taken(at),
  )
}

/** Holds it so that it comes to a speed at a place ahead. */
function slowTo(engine: Engine, n: number, mps: number, aheadM: number): void {
  const { world, scenario } = engine
  const { brakeMps2 } = engine.profileOf(n).powers
  const leftM = aheadM - world.speed[n] * scenario.stepS
  const brake = Math.min(EASY_MPS2, brakeMps2)
  holdBack(engine, n, leftM <= 0 ? mps : speedBefore(mps, leftM, brake), LIMIT.halt)
}

function standFrom(engine: Engine, n: number, { minS, maxS, where }: PlanHalt): void {
  const { world, seed, t } = engine
  const standS = maxS > minS ? minS + draw(seed, USE.halt, world.key[n], world.drawsHalt[n]++) * (maxS - minS) : minS
  world.haltPhase[n] = PHASE.stands
  world.haltUntil[n] = t + standS
  engine.log(n, 'halted', Math.round(standS * 1000), where === 'on' ? 0 : 1)
}

function haltOnLane(engine: Engine, n: number, halt: PlanHalt): void {
  const { world, t } = engine
  if (world.haltPhase[n] === PHASE.stands) {
    if (t + 1e-9 >= world.haltUntil[n]) letGo(engine, n)
    else holdBack(engine, n, 0, LIMIT.halt)
    return
  }
  const leftM = world.haltM[n] - world.pieceM[n]
  // Who stands there behind another stands at the platform as well.
  if (world.speed[n] < STANDS_MPS && world.pieceM[n] >= Math.min(halt.fromM, world.haltM[n] - THERE_M)) {
    standFrom(engine, n, halt)
    holdBack(engine, n, 0, LIMIT.halt)
  } else slowTo(engine, n, 0, leftM)
}

function park(engine: Engine, n: number, piece: Piece, halt: PlanHalt): void {
  const { world, t, registers } = engine
  const leftM = world.haltM[n] - world.pieceM[n]
  const asideM = parkedAsideM(halt, halt.laneM, world.radius[n])
  switch (world.haltPhase[n]) {
    case PHASE['comes-up']: {
      const toSlantM = leftM - Math.abs(asideM) / PARKS_SLOPE
      slowTo(engine, n, PARKS_MPS, toSlantM)
      if (toSlantM > THERE_M || world.speed[n] > PARKS_MPS + 0.1) {
        // It came past it, as one does who is made to.
        if (toSlantM < -2) letGo(engine, n)
        return
      }
      if (!canStand(engine, n, piece, asideM)) return letGo(engine, n)
      world.haltPhase[n] = PHASE['pulls-in']
      world.asideTo[n] = asideM
      return
    }
    case PHASE['pulls-in']:
      holdBack(engine, n, PARKS_MPS, LIMIT.halt)
      slowTo(engine, n, 0, leftM)
      if (leftM > THERE_M && world.speed[n] >= STANDS_MPS) return
      if (Math.abs(world.asideM[n] - asideM) > 0.3) return
      world.parked[n] = 1
      standFrom(engine, n, halt)
      return
    case PHASE.stands:
      holdBack(engine, n, 0, LIMIT.halt)
      if (t + 1e-9 >= world.haltUntil[n]) world.haltPhase[n] = PHASE.waits
      return
    case PHASE.waits: {
      const by = whoComes(engine, n, halt, Math.abs(asideM) / PARKS_SLOPE)
      if (by > 0) {
        holdBack(engine, n, 0, LIMIT['give-way'], by)
        return
      }
      world.haltPhase[n] = PHASE['pulls-out']
      world.parked[n] = 0
      world.asideTo[n] = 0
      // Those after it see it at once.
      engine.order.sort(world, registers.pieces.ids.length)
      return
    }
    default:
      holdBack(engine, n, PARKS_MPS, LIMIT.halt)
      if (Math.abs(world.asideM[n]) < THERE_M) letGo(engine, n)
  }
}

/** Is there floor all the way to its place? */
function canStand(engine: Engine, n: number, piece: Piece, asideM: number): boolean {
  const { world } = engine
  const spot = spotOf(engine, n)
  if (!spot) return false
  const at = world.haltM[n]
  const [x, y] = placeAt(piece.line, at)
  const [px, py] = placeAt(piece.line, Math.max(0, at - 1))
  const [qx, qy] = placeAt(piece.line, at + 1)
  const long = Math.sqrt((qx - px) ** 2 + (qy - py) ** 2) || 1
  const [toX, toY] = [x - ((qy - py) / long) * asideM, y + ((qx - px) / long) * asideM]
  return engine.profileOf(n).walker.walk(spot, world.x[n], world.y[n], toX, toY)
}

/** Who is to be let by before one pulls out. @returns its key, 0 for nobody */
function whoComes({ world, order }: Engine, n: number, halt: PlanHalt, slantM: number): number {
  const at = world.haltM[n]
  const r = world.radius[n]
  const comes = (m: number, gapM: number): boolean => {
    const v = world.speed[m]
    return gapM < ROOM_M + NOTICES_S * v + (v * v) / (2 * EASY_MPS2)
  }
  const on = world.piece[n]
  for (let q = order.begin(on); q < order.end(on); q++) {
    const m = order.slots[q]
    if (m === n) continue
    const far = order.at[q] - at
    const both = r + world.radius[m]
    if (far >= 0 ? far < both + slantM + 1 : comes(m, -far - both)) return world.key[m]
  }
  for (const w of halt.watched)
    for (let q = order.end(w.piece) - 1; q >= order.begin(w.piece); q--) {
      const m = order.slots[q]
      if (order.at[q] > w.toM || m === n) continue
      if (order.at[q] < w.fromM) break
      if (comes(m, at - halt.fromM + w.aheadM + w.toM - order.at[q] - r - world.radius[m])) return world.key[m]
    }
  return 0
}
