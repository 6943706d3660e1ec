import { followAccel, type Driver } from '@tidytrail/core/traffic'
import type { Track } from '../course'
import type { Engine } from '../engine'
import { LIMIT } from '../events'
import type { ProfileRow } from '../scenario'
import { holdBack } from '../travel'
import { aheadInTheOld, mindEnd, thinkOfChanging } from './change-lane'
import { mindCrossings, mindVehicles, noteWhoCrosses } from './mind-crossings'
import { mindHalts } from './mind-halts'
import { mindNarrows } from './mind-narrows'
import { mindWays } from './mind-ways'

/** How far beyond where it could stop it is looked for who is in front, seconds and metres. */
const LOOKS_S = 3
const LOOKS_M = 15
/** Nobody who has the choice brakes harder than this, metres a second squared, nor than this share of what it can. */
const EASY_MPS2 = 2
const EASY = 0.7

/** Slower than this is standing, metres a second; one who stands so much farther behind than it keeps is in the queue, metres. */
export const STANDS_MPS = 0.1
const QUEUE_M = 1.5

const drivers = new WeakMap<ProfileRow, Driver>()

/** How a body drives behind others: as its profile says. */
export function driverOf(row: ProfileRow): Driver {
  let driver = drivers.get(row)
  if (!driver) {
    const { profile, powers, gaitMps } = row
    driver = {
      wishMps: gaitMps,
      accelMps2: powers.accelMps2,
      brakeMps2: Math.min(EASY_MPS2, EASY * powers.brakeMps2),
      gapM: profile.keepsM,
      headwayS: profile.headwayS,
    }
    drivers.set(row, driver)
  }
  return driver
}

/**
 * Lets those who are carried along lanes mind each other: who is in front, by the intelligent driver model (Treiber,
 * Hennecke and Helbing 2000), and junctions, by what settles each of their conflicts.
 */
export function drive(engine: Engine): void {
  const { world, order, scenario, registers } = engine
  const { key, rail, courses } = world
  let any = false
  for (let n = 0; n < world.count && !any; n++) any = key[n] !== 0 && rail[n] === 1
  if (!any) {
    order.pieces = 0
    return
  }
  order.sort(world, registers.pieces.ids.length)
  const { pieces, crossings } = scenario.traffic
  if (crossings.length > 0) noteWhoCrosses(engine)
  // One after the other, so that two who want the same gap do not both have it.
  for (let n = 0; n < world.count; n++)
    if (key[n] !== 0 && rail[n] === 1 && thinkOfChanging(engine, n)) order.sort(world, registers.pieces.ids.length)
  for (let n = 0; n < world.count; n++) {
    if (key[n] === 0 || rail[n] === 0) continue
    const course = courses[n]!
    if (!pieces[world.piece[n]]) continue
    mindHalts(engine, n)
    if (world.parked[n] === 1) continue
    followOn(engine, n, course.track!)
    mindWays(engine, n, course)
    mindCrossings(engine, n, course)
    mindNarrows(engine, n, course.track!)
    mindEnd(engine, n)
  }
  if (crossings.length > 0) mindVehicles(engine)
}

/** Who is next in front along a course, and how far on its middle is. */
export const ahead = { slot: -1, m: 0 }

/**
 * Finds who is next in front of a place on the track of a course: on the same pieces, or where another way parts from
 * them and they are still in the way.
 * @param leg the leg to begin on @param fromM from so far along its piece on @param own who looks, −1 for nobody
 */
export function whoIsAhead(
  { world, order, scenario }: Engine,
  track: Track,
  leg: number,
  fromM: number,
  withinM: number,
  own: number,
): typeof ahead {
  const { pieces } = scenario.traffic
  ahead.slot = -1
  ahead.m = withinM
  // Who looks on from where it is need not look through those behind it.
  const behind = own >= 0 && leg === world.onLeg[own] && fromM >= world.pieceM[own] ? order.place[own] : -1
  let base = 0
  let startM = fromM
  for (let k = leg; k < track.piece.length && base < ahead.m; k++) {
    const number = track.piece[k]
    if (number < 0) break
    const from = k === leg ? startM : track.fromM[k]
    const to = track.toM[k]
    const end = order.end(number)
    for (let q = k === leg && behind >= 0 ? behind + 1 : order.begin(number); q < end; q++) {
      const m = order.slots[q]
      const at = order.at[q]
      const far = base + at - from
      if (at < from || m === own || (at === from && !(m > own))) continue
      // The rest of a piece that is left before its end is none of one's way.
      if (at > to + 1e-6 && k < track.piece.length - 1) break
      if (far < ahead.m) {
        ahead.slot = m
        ahead.m = far
      }
      break
    }
    for (const p of pieces[number]?.partings ?? []) {
      // Beyond where they part, or before it: from there on others count who are farther along.
      const past = from > p.atM ? from - p.atM : 0
      if (from > p.toM || p.atM > to + 1e-6) continue
      const last = order.end(p.piece)
      for (let q = order.begin(p.piece); q < last; q++) {
        const m = order.slots[q]
        const on = order.at[q] - p.fromM
        if (on < past || m === own || (on === past && past > 0 && !(m > own))) continue
        if (order.at[q] >= p.untilM) break
        const far = base + p.atM + on - from
        if (far < ahead.m && far > 0) {
          ahead.slot = m
          ahead.m = far
        }
        break
      }
    }
    base += to - from
    startM = 0
  }
  return ahead
}

function followOn(engine: Engine, n: number, track: Track): void {
  const { world, scenario } = engine
  const driver = driverOf(engine.profileOf(n))
  const v = world.speed[n]
  const look = (v * v) / (2 * driver.brakeMps2) + LOOKS_S * v + LOOKS_M
  const { slot, m } = whoIsAhead(engine, track, world.onLeg[n], world.pieceM[n], look, n)
  world.queued[n] = 0
  if (world.leaves[n] > 0) {
    const old = aheadInTheOld(engine, n, look)
    if (old.slot >= 0)
      follow(engine, n, old.slot, old.m - world.radius[n] - world.radius[old.slot], driver, scenario.stepS)
  }
  if (slot < 0) return
  const gap = m - world.radius[n] - world.radius[slot]
  const stands = v < STANDS_MPS && world.speed[slot] < STANDS_MPS && gap < driver.gapM + QUEUE_M
  world.queued[n] = stands ? 1 : 0
  follow(engine, n, slot, gap, driver, scenario.stepS)
}

const FOLLOWS: { -readonly [K in keyof Driver]: Driver[K] } = { wishMps: 0, accelMps2: 0, brakeMps2: 0, gapM: 0, headwayS: 0 } // prettier-ignore

/** Lets one drive behind another, with so much free between them, metres. */
export function follow(engine: Engine, n: number, other: number, gapM: number, driver: Driver, stepS: number): void {
  const { world } = engine
  const v = world.speed[n]
  FOLLOWS.wishMps = Math.max(0.1, Math.min(world.gaitMps[n], driver.wishMps))
  FOLLOWS.accelMps2 = driver.accelMps2
  FOLLOWS.brakeMps2 = driver.brakeMps2
  FOLLOWS.gapM = driver.gapM
  FOLLOWS.headwayS = driver.headwayS
  const a = followAccel(FOLLOWS, v, Math.max(0.01, gapM), v - world.speed[other])
  holdBack(engine, n, Math.max(0, v + a * stepS), LIMIT.queue, world.key[other])
}
