import { admits } from '@tidytrail/core/level'
import {
  changeGain,
  mayChange,
  placeBeside,
  USUAL_CHANGER,
  wayTo,
  type Neighbour,
  type Piece,
} from '@tidytrail/core/traffic'
import type { Engine } from '../engine'
import { goOverTo } from '../steps/follow-route'
import { speedBefore } from '../course'
import { CHANGE, LIMIT } from '../events'
import { holdBack } from '../travel'
import { driverOf, whoIsAhead } from './drive'
import { OVER_MPS, OVER_SHARE } from './rails'

/** Everybody thinks about it so often, seconds, and does not change again so soon after a change. */
const THINKS_S = 0.5
const AGAIN_S = 4
/** It keeps so much room to whatever comes where it would be over, metres. */
const ROOM_M = 4
/** One looks so far ahead and behind for others, seconds and metres. */
const LOOKS_S = 5
const LOOKS_M = 30
/** A lane is on its way and the other is not where that is so much longer, seconds; it begins to be pressed so far before it leads away, metres. */
const LONGER_S = 2
const PRESSED_M = 200
/** How much more somebody wants to change whose way leads on from the lane beside, metres a second squared, and what it then asks of those behind. */
const WANTS_MPS2 = 1
const PRESSED_MPS2 = 4
const PRESSED_BRAKE_MPS2 = 4

type BesidePiece = Piece['beside'][number]

/**
 * Lets those change lanes who get on better beside (MOBIL; Kesting, Treiber and Helbing 2007), or whose way leads on
 * from there. Who is told to follow a route keeps to its lane.
 * @returns has anybody changed?
 */
export function thinkOfChanging(engine: Engine, n: number): boolean {
  const { world, scenario, t } = engine
  if (world.mayChange[n] === 0 || world.leaves[n] > 0 || world.halt[n] > 0) return false
  const period = Math.max(1, Math.round(THINKS_S / scenario.stepS))
  if ((world.steps + world.key[n]) % period !== 0 || t - world.changedAt[n] < AGAIN_S) return false
  const piece = scenario.traffic.pieces[world.piece[n]]
  if (!piece || piece.beside.length === 0 || Math.abs(world.asideM[n]) > 0.3) return false
  let best: { of: BesidePiece; otherM: number; apartM: number; gain: number; needs: boolean } | undefined
  for (const of of piece.beside) {
    const place = placeBeside(of, world.pieceM[n])
    if (!place || !hasRoom(engine, n, piece, of, place)) continue
    const wish = wishFor(engine, n, piece, of, place.otherM)
    if (wish === -Infinity) continue
    const gain = gainOf(engine, n, piece, of, place.otherM, wish)
    if (gain > 0 && gain > (best?.gain ?? 0)) best = { of, ...place, gain, needs: wish > 0 }
  }
  if (!best) return false
  const { of, otherM, apartM, needs } = best
  world.changedAt[n] = t
  return goOverTo(engine, n, of.id, otherM, -of.side * apartM + world.asideM[n], needs ? CHANGE.way : CHANGE.gain)
}

/** Is there room ahead on both lanes to be over before anything comes that is minded, and may it be changed all that way? */
function hasRoom(
  engine: Engine,
  n: number,
  piece: Piece,
  of: BesidePiece,
  { otherM, apartM }: { otherM: number; apartM: number },
): boolean {
  const { world, scenario } = engine
  const { pieces, net } = scenario.traffic
  const m = world.pieceM[n]
  const v = world.speed[n]
  const needM = Math.max(apartM / OVER_SHARE, (apartM * v) / OVER_MPS) + ROOM_M
  const other = pieces[of.piece]
  if (!other || m + needM > of.toM || !admits(net.lanes.get(of.id)!.route, engine.profileOf(n).id)) return false
  return (
    freeAt(piece, m, needM) &&
    freeAt(other, otherM, needM) &&
    mayChange(net.lanes.get(piece.id)!, of.side, m, m + needM)
  )
}

/** Is no way through a junction on a piece here or so soon? */
const freeAt = ({ ways, closed, lengthM }: Piece, m: number, needM: number): boolean =>
  (closed || m + needM <= lengthM) && !ways.some((w) => w.fromM < m + needM && w.toM > m)

/** How much more the lane beside is wanted for the way that lies ahead, metres a second squared; −∞ where it leads away from it. */
function wishFor(engine: Engine, n: number, piece: Piece, of: BesidePiece, otherM: number): number {
  const { world, registers, scenario } = engine
  const { net, pieces } = scenario.traffic
  const m = world.pieceM[n]
  const goal = world.bound[n] > 0 ? registers.pieces.ids[world.bound[n] - 1] : undefined
  let ownS = piece.drops ? Infinity : 0
  let otherS = pieces[of.piece]!.drops ? Infinity : 0
  if (goal && net.lanes.has(goal)) {
    const to = wayTo(net, goal)
    const [own, other] = [to.along(piece.id, m), to.along(of.id, otherM)]
    if (own < Infinity || other < Infinity) [ownS, otherS] = [own, other]
  }
  if (otherS > ownS + LONGER_S) return -Infinity
  if (!(ownS > otherS + LONGER_S)) return 0
  return WANTS_MPS2 + PRESSED_MPS2 * Math.max(0, 1 - (of.toM - m) / PRESSED_M)
}

const now: { ahead?: Neighbour; behind?: Neighbour } = {}
const then: { ahead?: Neighbour; behind?: Neighbour } = {}

/** What would be won by the lane beside, metres a second squared. */
function gainOf(engine: Engine, n: number, piece: Piece, of: BesidePiece, otherM: number, wish: number): number {
  const { world } = engine
  const v = world.speed[n]
  const driver = driverOf(engine.profileOf(n))
  const look = LOOKS_M + LOOKS_S * v
  const track = world.courses[n]!.track!
  const { slot, m } = whoIsAhead(engine, track, world.onLeg[n], world.pieceM[n], look, n)
  now.ahead = slot < 0 ? undefined : { gapM: m - world.radius[n] - world.radius[slot], mps: world.speed[slot] }
  now.behind = nextOn(engine, n, piece.number, world.pieceM[n], -look)
  then.ahead = nextOn(engine, n, of.piece, otherM, look)
  then.behind = nextOn(engine, n, of.piece, otherM, -look)
  const changer =
    wish > 0
      ? { ...USUAL_CHANGER, bias: wish, politeness: 0, safeBrakeMps2: PRESSED_BRAKE_MPS2 }
      : engine.profileOf(n).profile.changesLanes
        ? USUAL_CHANGER
        : undefined
  if (!changer) return -Infinity
  const gain = changeGain(driver, changer, v, 2 * world.radius[n], now, then)
  // Nobody goes over behind somebody whom it would have to brake for as hard as for that.
  return then.ahead && brakesFor(driver, v, then.ahead) > changer.safeBrakeMps2 ? -Infinity : gain
}

const brakesFor = ({ gapM }: { gapM: number }, v: number, ahead: Neighbour): number => {
  const free = Math.max(0.01, ahead.gapM - gapM / 2)
  const closing = v - ahead.mps
  return closing <= 0 ? (ahead.gapM < gapM / 2 ? Infinity : 0) : (closing * closing) / (2 * free)
}

/** Who is next on a lane ahead of a place, or behind it where so far is negative. */
function nextOn({ world, order }: Engine, n: number, piece: number, m: number, withinM: number): Neighbour | undefined {
  let found: Neighbour | undefined
  for (let q = order.begin(piece); q < order.end(piece); q++) {
    const other = order.slots[q]
    if (other === n) continue
    const far = order.at[q] - m
    if (withinM > 0 ? far < 0 || far > withinM : far >= 0 || far < withinM) continue
    found = { gapM: Math.abs(far) - world.radius[n] - world.radius[other], mps: world.speed[other] }
    if (withinM > 0) break
  }
  return found
}

/** Who is ahead in the lane that is still being left, and how far on its middle is; −1 for nobody. */
export function aheadInTheOld({ world, order }: Engine, n: number, withinM: number): { slot: number; m: number } {
  const piece = world.leaves[n] - 1
  for (let q = order.begin(piece); q < order.end(piece); q++) {
    const other = order.slots[q]
    const far = order.at[q] - world.leavesM[n]
    if (other === n || far < 0) continue
    return far <= withinM ? { slot: other, m: far } : { slot: -1, m: 0 }
  }
  return { slot: -1, m: 0 }
}

/** Where its lane ends beside one that leads on it is waited so far before that is no longer beside it for room to go over, metres. */
const BEFORE_END_M = 24

/** Holds somebody before the end of a lane that it has to leave. */
export function mindEnd(engine: Engine, n: number): void {
  const { world, scenario } = engine
  const piece = scenario.traffic.pieces[world.piece[n]]
  if (!piece?.drops || world.mayChange[n] === 0) return
  let endM = 0
  for (const of of piece.beside) endM = Math.max(endM, of.toM)
  const leftM = endM - BEFORE_END_M - world.pieceM[n] - world.speed[n] * scenario.stepS
  const { brakeMps2 } = driverOf(engine.profileOf(n))
  if (leftM > -BEFORE_END_M / 2)
    holdBack(engine, n, leftM <= 0.02 ? 0 : speedBefore(0, leftM, brakeMps2), LIMIT['lane-end'])
}
