import { exact, type Point3 } from '@tidytrail/core/geometry'
import type { Spawner } from '@tidytrail/core/level'
import { directionAt, placeAt, type Piece } from '@tidytrail/core/traffic'
import { byWeight, USE } from '../chance'
import type { Engine } from '../engine'
import { MAX_AGENTS, type Registers, type SpawnRow } from '../scenario'
import { leave } from '../leave'
import { enter, isWatched } from '../spawn'
import { setOnLane, stopBefore } from '../steps/follow-route'
import { driverOf } from '../traffic/drive'
import { isTaken } from './room'
import { spawnLuck } from './places'

/** A lane a stream comes onto. */
export interface StreamRow {
  readonly laneId: string
  readonly piece: number
  /** Which of its spawner's lanes it is, of how many, and the rows of all of them. */
  readonly nth: number
  readonly of: number
  readonly rows: readonly number[]
  /** How many come in an hour from a time after its beginning on, the earliest first. */
  readonly flows: readonly { readonly fromS: number; readonly perH: number }[]
  readonly even: boolean
  /** The pieces they are bound for, and their shares. */
  readonly bound: readonly number[]
  readonly shares: readonly number[]
  readonly warm: boolean
  readonly withinM: number
}

export function streamOf(
  spawner: Spawner,
  { pieces }: Registers,
  laneId: string,
): Omit<StreamRow, 'laneId' | 'nth' | 'of' | 'rows'> {
  const { perH, hours, headways, bound, warm, withinM } = spawner
  return {
    piece: pieces.of(laneId),
    flows: [{ fromS: 0, perH }, ...[...hours].sort((a, b) => a.fromS - b.fromS)],
    even: headways === 'even',
    bound: bound.map((b) => pieces.of(b.laneId)),
    shares: bound.map((b) => b.share),
    warm: warm && withinM === null,
    withinM: withinM ?? Infinity,
  }
}

/** Nobody follows anybody sooner than this where chance says when they come, seconds. */
const LEAST_S = 1
/** So many wait before a lane at most: those who come then are not counted any more. */
const MOST_OWED = 10_000
/** Traffic that is already under way has come over so long, seconds. */
const WARM_S = 600
/** Places along a lane are drawn so often for one who is to appear near the player. */
const DRAWS = 6
/** One who is farther from the player than it may be is taken away this much beyond, as a share. */
const BEYOND = 1.15

/** How many come in an hour now. */
const flowAt = ({ flows }: StreamRow, s: number): number => flows.findLast((f) => f.fromS <= s)?.perH ?? 0

/** Time between two who come one after the other, seconds: even, or by a shifted exponential distribution (Cowan 1975). */
function headwayS(stream: StreamRow, perH: number, luck: number): number {
  const mean = 3600 / perH
  if (stream.even) return mean
  const least = Math.min(LEAST_S, 0.9 * mean)
  return least - (mean - least) * exact.log(1 - luck)
}

/** Lets those of a stream come whose time it is, and appear where there is room. */
export function streamOn(engine: Engine, k: number, row: SpawnRow, stream: StreamRow): void {
  const { world, t, seed } = engine
  const { by } = world
  const sinceS = t - by.begunAt[k]
  if (stream.withinM < Infinity) takeAway(engine, k, stream)
  while (sinceS <= row.untilS && t + 1e-9 >= by.nextAt[k]) {
    const perH = flowAt(stream, by.nextAt[k] - by.begunAt[k])
    if (perH <= 0) {
      by.nextAt[k] = by.begunAt[k] + (stream.flows.find((f) => f.fromS > sinceS)?.fromS ?? Infinity)
      continue
    }
    if (by.owed[k] < MOST_OWED) by.owed[k]++
    by.nextAt[k] += headwayS(stream, perH, spawnLuck(seed, USE.when, keyOf(row, stream), by.drawsWhen[k]++))
  }
  while (by.owed[k] > 0 && aliveOf(engine, stream) < row.mostAlive && world.count < MAX_AGENTS) {
    if (!come(engine, k, row, stream)) return
    by.owed[k]--
  }
}

const keyOf = (row: SpawnRow, { laneId }: StreamRow): string => `${row.id} ${laneId}`

const aliveOf = ({ world: { by } }: Engine, { rows }: StreamRow): number =>
  rows.reduce((sum, r) => sum + by.there[r], 0)

/** Lets one appear at the beginning of the lane, or somewhere near the player. @returns false where there is no room */
function come(engine: Engine, k: number, row: SpawnRow, stream: StreamRow): boolean {
  const piece = engine.scenario.traffic.pieces[stream.piece]
  if (!piece) return false
  const told = variantOf(engine, k, row, stream)
  const { radiusM } = engine.scenario.profiles[row.variants[told].profile]!.profile
  if (stream.withinM === Infinity)
    return appearAt(engine, k, row, stream, piece, told, Math.min(radiusM, piece.lengthM / 2))
  for (let q = 0; q < DRAWS; q++) {
    const luck = spawnLuck(engine.seed, USE.place, keyOf(row, stream), engine.world.by.drawsPlace[k]++)
    const m = radiusM + luck * Math.max(0, piece.lengthM - 2 * radiusM)
    if (nearestPlayerM(engine, placeAt(piece.line, m)) > stream.withinM) continue
    if (appearAt(engine, k, row, stream, piece, told, m)) return true
  }
  return false
}

function variantOf({ world, seed }: Engine, k: number, row: SpawnRow, stream: StreamRow): number {
  if (row.variants.length === 1) return 0
  return byWeight(row.weights, spawnLuck(seed, USE.mix, keyOf(row, stream), world.by.sent[k]))
}

/** How far it is to the nearest stand-in, metres; nobody is far from one where there is none. */
function nearestPlayerM(engine: Engine, [x, y]: Point3): number {
  const { world } = engine
  let least = Infinity
  for (let m = 0; m < world.count; m++)
    if (world.key[m] !== 0 && engine.spawnerOf(m)?.standIn)
      least = Math.min(least, exact.hypot(world.x[m] - x, world.y[m] - y))
  return least === Infinity ? 0 : least
}

/** Takes those away who are too far from the player, where the stream is one about the player. */
function takeAway(engine: Engine, k: number, { withinM }: StreamRow): void {
  const { world } = engine
  if (world.steps % 8 !== 0) return
  for (let n = 0; n < world.count; n++)
    if (
      world.key[n] !== 0 &&
      world.spawner[n] === k &&
      nearestPlayerM(engine, [world.x[n], world.y[n], 0]) > BEYOND * withinM
    )
      leave(engine, n, true)
}

/** Lets one appear so far along a lane, as fast as those about it go. @returns false where there is no room */
function appearAt(
  engine: Engine,
  k: number,
  row: SpawnRow,
  stream: StreamRow,
  piece: Piece,
  variant: number,
  m: number,
): boolean {
  const { world, scenario, seed } = engine
  const { by } = world
  const told = row.variants[variant]
  const profileRow = scenario.profiles[told.profile]!
  const { profile, planner } = profileRow
  const [x, y, z] = placeAt(piece.line, m)
  const spot = planner.map.reachedAt(x, y, z)
  if (!spot) return false
  const place: Point3 = [x, y, planner.map.zOf(spot)]
  if (isTaken(engine, place, profile.radiusM, profile.heightM)) return false
  if ((row.beyondM > 0 || row.unseen) && isWatched(engine, row, place, profile.heightM)) return false
  const driver = driverOf(profileRow)
  let mps = Math.min(profileRow.gaitMps, piece.limitMps)
  // Nobody appears nearer to who is in front than it would follow, nor so near before who comes from behind.
  for (let other = 0; other < world.count; other++) {
    if (world.key[other] === 0 || world.piece[other] !== stream.piece || world.rail[other] !== 1) continue
    const apartM = world.radius[other] + profile.radiusM
    const gap = Math.abs(world.pieceM[other] - m) - apartM
    const ahead = world.pieceM[other] >= m
    if (ahead) mps = Math.min(mps, world.speed[other] + 0.5)
    if (gap < driver.gapM + driver.headwayS * (ahead ? Math.min(mps, world.speed[other]) : world.speed[other]))
      return false
  }
  const lane = engine.scenario.traffic.net.lanes.get(stream.laneId)
  const stop = lane ? stopBefore(lane, m) : -1
  if (stop < 0) return false
  const number = by.sent[k]++ * stream.of + stream.nth + 1
  by.there[k]++
  const rad = directionAt(piece.line, m + 1e-6)
  const n = enter(engine, k, number, variant, place, exact.cos(rad), exact.sin(rad))
  if (stream.bound.length > 0)
    world.bound[n] =
      1 + stream.bound[byWeight(stream.shares, spawnLuck(seed, USE.bound, keyOf(row, stream), by.sent[k]))]
  if (told.briefId === null) setOnLane(engine, n, stream.laneId, stop, m, mps)
  return true
}

/** Puts those on the lanes who would be there had the stream flowed for a while: each as far as it has come since. */
export function streamBegins(engine: Engine, k: number, row: SpawnRow, stream: StreamRow): void {
  if (!stream.warm) return
  const { scenario, seed, world } = engine
  const { traffic, profiles } = scenario
  const perH = flowAt(stream, 0)
  if (perH <= 0) return
  const luck = () => spawnLuck(seed, USE.warm, keyOf(row, stream), count++)
  let count = 0
  for (let agoS = headwayS(stream, perH, luck()); agoS < WARM_S; agoS += headwayS(stream, perH, luck())) {
    if (aliveOf(engine, stream) >= row.mostAlive || world.count >= MAX_AGENTS) return
    const variant = variantOf(engine, k, row, stream)
    const { gaitMps } = profiles[row.variants[variant].profile]!
    let piece = traffic.pieces[stream.piece]
    let laneId = stream.laneId
    let leftM = agoS * Math.min(gaitMps, piece?.limitMps ?? Infinity)
    // On along the lanes, at each end by the shares of the ways that part there.
    for (let hops = 0; piece && leftM > piece.lengthM && hops < 200; hops++) {
      leftM -= piece.lengthM
      const out = (traffic.net.out.get(laneId) ?? []).filter((w) => w.fromM > piece!.lengthM - 0.05)
      if (out.length === 0) {
        piece = undefined
        break
      }
      const way =
        out[
          byWeight(
            out.map((w) => w.share),
            luck(),
          )
        ]
      leftM -= way.line.lengthM
      laneId = way.to
      piece = traffic.pieces[engine.registers.pieces.of(laneId)]
    }
    if (!piece || leftM < 1 || leftM > piece.lengthM - 12) continue
    // Not within a junction, where somebody else may already be counted on to have gone.
    if (piece.ways.some((w) => leftM > w.fromM - 2 && leftM < w.toM + 2)) continue
    // Nor in a narrow, which those may be coming through who come towards it.
    if (piece.narrows.some((w) => leftM > w.fromM - 4 && leftM < w.toM + 4)) continue
    appearAt(engine, k, row, { ...stream, laneId, piece: piece.number }, piece, variant, leftM)
  }
}
