import type { Halt, Junction, Level } from '@tidytrail/core/level'
import { endsBeside, lanesBeside, type Beside } from './beside'
import { conflictsOf, knownConflicts, partOf, type Conflict } from './conflicts'
import { firstBySide, linkWay, pairsOf, waysOf, widestOn, type JunctionParts, type Pair, type Way } from './junction'
import { tightestM, type MeasuredLine } from './measured-line'
import type { LaneNet, NetLane, NetMove } from './net'
import { placesOf, watchedBefore } from './halts'
import { crossingsOf, type Crossed, type Crossing } from './crossings'
import { litCrossings, redBeforeM } from './lit-crossings'
import type { WalkNet } from './walk-net'
import { narrowsOf, type NarrowSide } from './narrows'
import { WAITS_BEFORE_M, watchFor, type WatchedStretch } from './watch'

/** A lane, or a way from one lane into another, as those see it who drive along it. Metres, metres a second. */
export interface Piece {
  readonly number: number
  readonly id: string
  readonly isLane: boolean
  readonly line: MeasuredLine
  readonly lengthM: number
  readonly closed: boolean
  readonly limitMps: number
  /** Where others part from it: who is there is still in front, though on another piece. */
  readonly partings: readonly Parting[]
  /** The ways through junctions that lie on it, the first first. */
  readonly ways: readonly PlanWay[]
  /** Lanes beside it that lead the same way, with their numbers. */
  readonly beside: readonly (Beside & { readonly piece: number })[]
  /** Where those who walk cross it, the first first. */
  readonly crossings: readonly CrossedHere[]
  /** Where those of the other way are waited for, in order. */
  readonly narrows: readonly PlanNarrowHere[]
  /** Where some stand for a while, the one that ends first first. */
  readonly halts: readonly PlanHalt[]
  /** Does it end where the lane beside it leads on, so that everybody has to go over? */
  readonly drops: boolean
}

/** A narrow of which a piece leads through one side. Metres along the piece. */
export interface PlanNarrowHere extends NarrowSide {
  readonly number: number
  readonly side: 0 | 1
}
/** A narrow as those go by it who drive, its sides told by the numbers of their pieces. */
export interface PlanNarrow {
  readonly number: number
  readonly sides: readonly (NarrowSide & { readonly piece: number })[]
}

/** A halt with the middles of its places, metres along its lane, and where those are looked for who come by. */
export interface PlanHalt extends Halt {
  readonly laneM: number
  readonly placesM: readonly number[]
  readonly watched: readonly (Omit<Watched, 'id'> & { readonly piece: number })[]
}

/** A crossing where it leads over a piece, and from where to where along that, metres. */
export interface CrossedHere {
  readonly crossing: number
  readonly over: Crossed
}

/** A crossing as those go by it who drive and walk, its lanes told by the numbers of their pieces. */
export interface PlanCrossing extends Omit<Crossing, 'over'> {
  readonly number: number
  /** Whose lights those see who walk; undefined where there are none. */
  readonly lit: Junction | undefined
  readonly over: readonly (Omit<Crossed, 'watched'> & {
    readonly piece: number
    readonly watched: readonly (Omit<Watched, 'id'> & { readonly piece: number })[]
  })[]
}

/** From so far along a piece on, and as far as there, those on another piece are in the way too. */
export interface Parting {
  readonly atM: number
  readonly toM: number
  readonly piece: number
  readonly fromM: number
  readonly untilM: number
}

/** How a conflict is settled, as one of the two sees it. */
export type How =
  /** Never green together: who is still inside is waited for. */
  | 'signal'
  | 'gives-way'
  | 'goes-first'
  /** Who stood at its line first goes first. */
  | 'all-way'
  /** Who is nearer goes first, as where two lanes become one. */
  | 'nearest'
  /** Nobody minds. */
  | 'nothing'

/** Another way that is crossed or come into. Metres along the own and the other's piece. */
export interface PlanConflict {
  readonly way: PlanWay
  readonly fromM: number
  readonly toM: number
  readonly otherFromM: number
  readonly otherToM: number
  readonly merging: boolean
  readonly how: How
  /** Where it is looked whether anybody comes, by the numbers of pieces. */
  readonly watched: readonly (Omit<Watched, 'id'> & { readonly piece: number })[]
}
type Watched = Pick<WatchedStretch, 'id' | 'fromM' | 'toM' | 'aheadM'>

/** A way through a junction, on a piece. */
export interface PlanWay {
  readonly number: number
  readonly id: string
  readonly piece: number
  readonly fromM: number
  readonly toM: number
  /** Where it is waited for others, metres along the piece: at its beginning, or before the first it gives way to. */
  readonly waitM: number
  /** So far before its beginning is where one waits at red, metres: before a crossing at which those who walk see lights too. */
  readonly redM: number
  /** Radius of its tightest bend, metres. */
  readonly tightM: number
  /** Does one stand still there first? */
  readonly stops: boolean
  readonly junctionId: string | undefined
  readonly junction: Junction | undefined
  readonly conflicts: readonly PlanConflict[]
}

/** All that those who drive along the lanes of a level go by. */
export interface TrafficPlan {
  readonly net: LaneNet
  /** By their numbers; undefined for a number that is no longer anything. */
  readonly pieces: readonly (Piece | undefined)[]
  readonly ways: readonly (PlanWay | undefined)[]
  /** By their numbers, with gaps. */
  readonly crossings: readonly (PlanCrossing | undefined)[]
  readonly narrows: readonly (PlanNarrow | undefined)[]
  /** The most that any way is waited for before its beginning at red, metres. */
  readonly mostRedM: number
}

/** Numbers for ids, the same for as long as somebody may have one in mind. */
export interface Numbers {
  readonly ids: readonly string[]
  of(id: string): number
}

export const NO_TRAFFIC: TrafficPlan = {
  net: { lanes: new Map(), moves: new Map(), out: new Map(), into: new Map() },
  pieces: [],
  ways: [],
  crossings: [],
  narrows: [],
  mostRedM: 0,
}

/** Beginnings nearer to each other than this are one, metres. */
const ONE_PLACE_M = 0.05

type Wide<T> = { -readonly [K in keyof T]: T[K] }

/** Numbers the lanes of a level and the ways between them, and says for each who else is to be minded there. */
export function trafficPlan(
  level: JunctionParts & Pick<Level, 'roads'>,
  net: LaneNet,
  walks: WalkNet,
  numbers: Numbers,
): TrafficPlan {
  if (net.lanes.size === 0) return NO_TRAFFIC
  const pieces: (Wide<Piece> & {
    partings: Parting[]
    ways: PlanWay[]
    crossings: CrossedHere[]
    narrows: PlanNarrowHere[]
  })[] = []
  const lay = (id: string, line: MeasuredLine, lane: NetLane | undefined, limitMps: number) => {
    const number = numbers.of(id)
    const { lengthM } = line
    pieces[number] = { number, id, isLane: lane !== undefined, line, lengthM, closed: lane?.closed ?? false, limitMps, partings: [], ways: [], crossings: [], narrows: [], halts: [], beside: [], drops: false } // prettier-ignore
    return pieces[number]
  }
  const limitOf = (id: string) => net.lanes.get(id)!.route.speedLimitMps ?? Infinity
  const beside = lanesBeside(net)
  for (const [id, lane] of net.lanes) {
    const piece = lay(id, lane.line, lane, limitOf(id))
    piece.beside = (beside.get(id) ?? []).map((b) => ({ ...b, piece: numbers.of(b.id) }))
    piece.drops = endsBeside(net, id)
    piece.halts = lane.route.halts
      .map((halt) => ({
        ...halt,
        // Whoever passes may be wider than the lane.
        laneM: Math.max(lane.route.widthM, widestOn(level, id)),
        placesM: placesOf(halt, lane.line.lengthM),
        watched: halt.where === 'on' ? [] : numbered(watchedBefore(net, lane, halt), numbers),
      }))
      .sort((a, b) => a.toM - b.toM)
  }
  for (const [id, move] of net.moves) lay(id, move.line, undefined, Math.max(limitOf(move.from), limitOf(move.to)))
  const apartOf = (a: string, b: string) => (widestOn(level, a) + widestOn(level, b)) / 2
  for (const [laneId, moves] of net.out) part(pieces, numbers, net.lanes.get(laneId)!, moves, apartOf)

  const ways: Wide<PlanWay>[] = []
  const add = (way: Way, junctionId?: string, junction?: Junction): Wide<PlanWay> => {
    const { isLink, fromM, toM } = way
    const from = isLink ? 0 : fromM
    const length = net.lanes.get(way.id)?.line.lengthM ?? 0
    // A round lane may lead through where it begins.
    const to = isLink ? way.line.lengthM : toM > fromM ? toM : toM + length
    const made = {
      number: numbers.of(`${junctionId ?? Math.round(to)} ${way.id}`), id: way.id, piece: numbers.of(way.id), fromM: from, toM: to, waitM: from, redM: 0, tightM: tightestM(way.line), stops: false, junctionId, junction, conflicts: [] } // prettier-ignore
    ways.push(made)
    return made
  }
  const settled = new Set<string>()
  for (const junctionId of Object.keys(level.junctions).sort()) {
    const junction = level.junctions[junctionId]
    const own = waysOf(level, net, junction)
    const rows = new Map(own.map((way) => [way.id, add(way, junctionId, junction)]))
    for (const way of own) settled.add(way.id)
    for (const pair of pairsOf(level, net, junction))
      relate(level, net, numbers, pair, rows.get(pair.a.id)!, rows.get(pair.b.id)!)
  }
  // Where lanes become one outside of junctions, who is nearer goes first; who joins one that leads on gives way to it.
  for (const moves of net.into.values()) {
    const free = moves.filter((m) => !settled.has(m.id))
    const rows = new Map<string, Wide<PlanWay>>()
    const rowOf = (move: NetMove) => {
      let row = rows.get(move.id)
      if (!row) rows.set(move.id, (row = add(wayOf(level, net, move))))
      return row
    }
    free.forEach((move, i) => {
      const lane = net.lanes.get(move.to)!
      if (move.toM > ONE_PLACE_M) joinLane(level, net, numbers, move, lane, rowOf(move), add, apartOf)
      for (const other of free.slice(i + 1)) {
        if (Math.abs(other.toM - move.toM) > ONE_PLACE_M) continue
        const conflicts = knownConflicts(move.line, other.line, apartOf(move.from, other.from))
        const pair: Pair = { a: wayOf(level, net, move), b: wayOf(level, net, other), conflicts, settled: { by: 'nothing' } } // prettier-ignore
        if (conflicts.length > 0) relate(level, net, numbers, pair, rowOf(move), rowOf(other), 'nearest')
      }
    })
  }
  for (const way of ways) {
    pieces[way.piece].ways.push(way)
    const gives = way.conflicts.filter((c) => c.how === 'gives-way')
    if (gives.length > 0) way.waitM = Math.max(way.fromM, Math.min(...gives.map((c) => c.fromM)) - WAITS_BEFORE_M)
  }
  for (const piece of pieces) piece?.ways.sort((a, b) => a.fromM - b.fromM)
  const byNumber: PlanWay[] = []
  for (const way of ways) byNumber[way.number] = way
  const narrows: PlanNarrow[] = []
  for (const { id, sides } of narrowsOf(level, net)) {
    const number = numbers.of(id)
    narrows[number] = { number, sides: sides.map((s) => ({ ...s, piece: numbers.of(s.laneId) })) }
    sides.forEach((s, k) => pieces[numbers.of(s.laneId)].narrows.push({ ...s, number, side: k === 0 ? 0 : 1 }))
  }
  for (const piece of pieces) piece?.narrows.sort((a, b) => a.fromM - b.fromM)
  const lit = litCrossings(level, net, walks)
  for (const { id, at } of lit.values())
    for (const { way } of at.ways) {
      const row = ways.find((w) => w.junctionId === id && w.id === way.id)
      if (row) row.redM = Math.max(row.redM, redBeforeM(way, [at]))
    }
  const mostRedM = ways.reduce((most, w) => Math.max(most, w.redM), 0)
  return { net, pieces, ways: byNumber, crossings: crossingsIn(level, net, walks, numbers, pieces, lit), narrows, mostRedM } // prettier-ignore
}

/** Numbers the crossings, and notes them on the pieces they lead over. */
function crossingsIn(
  level: JunctionParts,
  net: LaneNet,
  walks: WalkNet,
  numbers: Numbers,
  pieces: readonly { crossings: CrossedHere[] }[],
  lit: ReturnType<typeof litCrossings>,
): PlanCrossing[] {
  const byNumber: PlanCrossing[] = []
  for (const crossing of crossingsOf(level, walks, net)) {
    const number = numbers.of(crossing.id)
    const over = crossing.over.map((o) => {
      const piece = numbers.of(o.id)
      pieces[piece].crossings.push({ crossing: number, over: o })
      return { ...o, piece, watched: o.watched.map((w) => ({ ...w, piece: numbers.of(w.id) })) }
    })
    byNumber[number] = { ...crossing, number, over, lit: lit.get(crossing)?.junction }
  }
  for (const piece of pieces) piece?.crossings.sort((a, b) => a.over.drive.fromM - b.over.drive.fromM)
  return byNumber
}

const wayOf = (level: JunctionParts, net: LaneNet, move: NetMove): Way =>
  linkWay(net, move, (id) => widestOn(level, id))

/** Notes where ways part from a lane: from each other, and from the lane where it leads on. */
function part(
  pieces: readonly { partings: Parting[] }[],
  numbers: Numbers,
  lane: NetLane,
  moves: readonly NetMove[],
  apartOf: (a: string, b: string) => number,
): void {
  const of = (id: string) => numbers.of(id)
  const both = (a: number, aM: number, b: number, bM: number, { a: own, b: other }: Conflict) => {
    pieces[a].partings.push({ atM: aM, toM: aM + own.toM, piece: b, fromM: bM, untilM: bM + other.toM })
    pieces[b].partings.push({ atM: bM, toM: bM + other.toM, piece: a, fromM: aM, untilM: aM + own.toM })
  }
  const begins = (c: Conflict) => c.a.fromM < ONE_PLACE_M && c.b.fromM < ONE_PLACE_M
  moves.forEach((move, i) => {
    for (const other of moves.slice(i + 1)) {
      if (Math.abs(other.fromM - move.fromM) > ONE_PLACE_M) continue
      const found = knownConflicts(move.line, other.line, apartOf(move.to, other.to)).find(begins)
      if (found) both(of(move.id), 0, of(other.id), 0, found)
    }
    if (move.fromM >= lane.line.lengthM - ONE_PLACE_M) return
    const on = partOf(lane.line, { fromM: move.fromM, toM: lane.line.lengthM })
    const found = conflictsOf(move.line, on, apartOf(move.to, lane.id)).find(begins)
    if (found) both(of(move.id), 0, of(lane.id), move.fromM, found)
  })
}

/** One that comes into a lane that leads on gives way to those who are on it. */
function joinLane(
  level: JunctionParts,
  net: LaneNet,
  numbers: Numbers,
  move: NetMove,
  lane: NetLane,
  row: Wide<PlanWay>,
  add: (way: Way) => Wide<PlanWay>,
  apartOf: (a: string, b: string) => number,
): void {
  const line = partOf(lane.line, { fromM: 0, toM: move.toM })
  const conflicts = conflictsOf(move.line, line, apartOf(move.from, lane.id)).filter((c) => c.kind === 'merging')
  if (conflicts.length === 0) return
  const a = wayOf(level, net, move)
  const b: Way = { ...a, id: lane.id, isLink: false, line, from: lane.id, to: lane.id, fromM: 0, toM: move.toM }
  const pair: Pair = { a, b, conflicts, settled: { by: 'gives-way', who: a.id, watchM: null } }
  relate(level, net, numbers, pair, row, add(b))
}

/** Tells two ways of each other. */
function relate(
  level: JunctionParts,
  net: LaneNet,
  numbers: Numbers,
  { a, b, conflicts, settled }: Pair,
  rowA: Wide<PlanWay>,
  rowB: Wide<PlanWay>,
  instead?: How,
): void {
  const { drivesOn } = level.settings
  const howOf = (own: Way): How => {
    if (instead) return instead
    switch (settled.by) {
      case 'signal':
      case 'all-way':
      case 'nothing':
        return settled.by
      case 'side':
        return firstBySide(a, b, drivesOn) === own.id ? 'goes-first' : 'gives-way'
      default:
        return settled.who === own.id ? 'gives-way' : 'goes-first'
    }
  }
  const saidM = 'watchM' in settled ? settled.watchM : null
  for (const c of conflicts)
    for (const [own, other, row, otherRow, span, there] of [
      [a, b, rowA, rowB, c.a, c.b],
      [b, a, rowB, rowA, c.b, c.a],
    ] as const) {
      const how = howOf(own)
      const from = own.isLink ? 0 : own.fromM
      const otherFrom = other.isLink ? 0 : other.fromM
      const looks = how === 'gives-way' || how === 'all-way'
      row.conflicts = [
        ...row.conflicts,
        {
          way: otherRow,
          fromM: from + span.fromM,
          toM: from + span.toM,
          otherFromM: otherFrom + there.fromM,
          otherToM: otherFrom + there.toM,
          merging: c.kind === 'merging',
          how,
          watched: looks ? numbered(watchFor(level, net, own, other, span.toM, there.fromM, saidM).stretches, numbers) : [], // prettier-ignore
        },
      ]
      if (settled.by === 'stops' && settled.who === own.id) row.stops = true
      if (how === 'all-way') row.stops = true
    }
}

const numbered = (stretches: readonly WatchedStretch[], numbers: Numbers): PlanConflict['watched'] =>
  stretches
    .filter((s) => !s.beside)
    .map(({ id, fromM, toM, aheadM }) => ({ piece: numbers.of(id), fromM, toM, aheadM }))
