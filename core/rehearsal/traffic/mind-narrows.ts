import type { PlanNarrow, PlanNarrowHere } from '@tidytrail/core/traffic'
import type { Track } from '../course'
import type { Engine } from '../engine'
import { LIMIT } from '../events'
import { driverOf, whoIsAhead } from './drive'
import { stopAt } from './mind-ways'

/** One stands so far before a narrow, and looks so far beyond where it could stop, metres. */
const BEFORE_M = 1
const BEYOND_M = 5

const codeOf = (number: number, side: number): number => 2 * number + side + 1

/**
 * Holds somebody before a narrow as long as others come through it the other way, or have waited for it longer, and
 * until there is room for it beyond: whoever is in a narrow can leave it.
 */
export function mindNarrows(engine: Engine, n: number, track: Track): void {
  const { world, scenario } = engine
  const { pieces, narrows } = scenario.traffic
  if (narrows.length === 0) return
  const v = world.speed[n]
  const r = world.radius[n]
  const look = (v * v) / (2 * driverOf(engine.profileOf(n)).brakeMps2) + v + BEYOND_M + r
  const waited = world.narrowWaits[n]
  world.narrowWaits[n] = 0
  let claimed = false
  let before = false
  let base = 0
  for (let leg = world.onLeg[n]; leg < track.piece.length && base < look; leg++) {
    const from = leg === world.onLeg[n] ? world.pieceM[n] : track.fromM[leg]
    const piece = track.piece[leg] < 0 ? undefined : pieces[track.piece[leg]]
    if (!piece) break
    for (const at of piece.narrows) {
      if (at.toM + r < from || at.fromM > track.toM[leg]) continue
      const code = codeOf(at.number, at.side)
      const own = world.narrow[n] === code
      const lineM = base + at.fromM - from - r - BEFORE_M
      const inIt = lineM < -BEFORE_M
      if (own) {
        claimed = true
        before = !inIt
      }
      // It is in it already, may go, or is not there yet.
      if (inIt || own) continue
      if (lineM > look) return letGo(engine, n, claimed)
      // What lies beyond a narrow it has yet to come to is asked for from within that.
      if (before) return stopAt(engine, n, lineM, LIMIT.narrow)
      const by = whoKeepsOut(engine, n, track, narrows[at.number]!, at, lineM + r + BEFORE_M, waited === code)
      if (by === 0) {
        world.narrow[n] = code
        claimed = before = true
        continue
      }
      stopAt(engine, n, lineM, LIMIT.narrow, by > 0 ? by : 0)
      return letGo(engine, n, claimed)
    }
    base += track.toM[leg] - from
  }
  letGo(engine, n, claimed)
}

/** What was its to go through lies behind it, or on its way no more. */
function letGo({ world }: Engine, n: number, claimed: boolean): void {
  if (!claimed) world.narrow[n] = 0
}

/** Who keeps somebody out of a narrow: a key; −1 for want of room beyond, 0 for nobody. @param waited did it wait for it already? */
function whoKeepsOut(
  engine: Engine,
  n: number,
  track: Track,
  narrow: PlanNarrow,
  at: PlanNarrowHere,
  toM: number,
  waited: boolean,
): number {
  const { world, t } = engine
  // One after the other: who is behind somebody that waits, waits for that.
  const first = whoIsAhead(engine, track, world.onLeg[n], world.pieceM[n], toM, n)
  const code = codeOf(at.number, at.side)
  if (first.slot >= 0 && world.narrow[first.slot] !== code) return world.key[first.slot]
  const other = codeOf(at.number, 1 - at.side)
  const [own, theirs] = [narrow.sides[at.side], narrow.sides[1 - at.side]]
  const needsM = (m: number) => 2 * world.radius[m] + driverOf(engine.profileOf(m)).gapM
  let neededM = needsM(n)
  let by = 0
  const since = waited ? world.narrowSince[n] : t
  for (let m = 0; m < world.count; m++) {
    if (m === n || world.key[m] === 0 || world.rail[m] !== 1 || world.parked[m] === 1) continue
    const far = world.pieceM[m]
    if (world.narrow[m] === other) by = world.key[m]
    else if (world.piece[m] === theirs.piece && far + world.radius[m] > theirs.fromM && far - world.radius[m] < theirs.toM) by = world.key[m] // prettier-ignore
    else if (by === 0 && world.narrowWaits[m] === other && (world.narrowSince[m] < since || (world.narrowSince[m] === since && world.key[m] < world.key[n]))) by = world.key[m] // prettier-ignore
    const on = world.piece[m] === own.piece && far > own.fromM && far - world.radius[m] < own.toM + own.roomM
    if (on || world.narrow[m] === code) neededM += needsM(m)
  }
  if (neededM > own.roomM) return -1
  if (by !== 0) {
    world.narrowWaits[n] = code
    world.narrowSince[n] = since
  }
  return by
}
