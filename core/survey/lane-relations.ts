import { sameValue, type Level } from '@tidytrail/core/level'
import {
  backwardLanes,
  crossingsAt,
  laneNet,
  laneOverlaps,
  NO_LANES,
  pairsOf,
  suggestJoins,
  suggestJunctions,
  walkedLanes,
  type CrossingAt,
  type LaneNet,
  type JunctionSite,
  type LaneOverlap,
  type Pair,
  type Suggestion,
} from '@tidytrail/core/traffic'

/** How the lanes of a level lie to each other. What comes out as before keeps its identity. */
export interface LaneRelations {
  readonly lanes: LaneNet
  /** Joins there could be, by the lane they leave. */
  readonly joins: ReadonlyMap<string, readonly Suggestion[]>
  /** The same by the lane they lead into. */
  readonly joinsInto: ReadonlyMap<string, readonly Suggestion[]>
  /** Lanes drawn backwards, in order. */
  readonly backwards: readonly string[]
  /** Lanes that lie over each other, by the first of both. */
  readonly overlaps: ReadonlyMap<string, readonly LaneOverlap[]>
  /** Ways of each junction that cannot be used at once. */
  readonly pairs: ReadonlyMap<string, readonly Pair[]>
  /** The crossings at each junction with signals. */
  readonly walked: ReadonlyMap<string, readonly CrossingAt[]>
  /** Where junctions are missing, by the first lane that leads to it. */
  readonly sites: ReadonlyMap<string, readonly JunctionSite[]>
}

export const NO_LANE_RELATIONS: LaneRelations = {
  lanes: NO_LANES,
  joins: new Map(),
  joinsInto: new Map(),
  backwards: [],
  overlaps: new Map(),
  pairs: new Map(),
  walked: new Map(),
  sites: new Map(),
}

/**
 * What is to be known of lanes after an edit.
 * @param followed by the lanes that somebody is told to follow
 * @param wasFollowed the same before
 */
export function relateLanes(
  level: Level,
  old: Level | undefined,
  before: LaneRelations,
  followed: ReadonlyMap<string, unknown>,
  wasFollowed: ReadonlyMap<string, unknown>,
): LaneRelations {
  const keys = ['routes', 'waypoints', 'links', 'roads', 'junctions', 'profiles', 'settings'] as const
  // What is given may hold more than this.
  const { lanes: last, joins, joinsInto, backwards, overlaps, pairs, walked, sites } = before
  const same: LaneRelations = { lanes: last, joins, joinsInto, backwards, overlaps, pairs, walked, sites }
  if (old && followed === wasFollowed && keys.every((k) => old[k] === level[k])) return same
  const net = laneNet(level)
  const lanes = sameNet(last, net) ? last : net
  if (lanes.lanes.size === 0 && last.lanes.size === 0 && pairs.size === 0) return same
  const { drivesOn } = level.settings
  const other = lanes !== last
  const moved = other || old?.settings.drivesOn !== drivesOn
  const ruled = other || old?.junctions !== level.junctions || old.profiles !== level.profiles || moved
  const suggested = moved ? suggestJoins(lanes, drivesOn) : undefined
  const byLane = (key: (s: Suggestion) => string, kept: LaneRelations['joins']) =>
    suggested ? keepLists(kept, by(suggested, key), sameSuggestion) : kept
  return {
    lanes,
    joins: byLane((s) => s.from, joins),
    joinsInto: byLane((s) => s.to, joinsInto),
    backwards:
      moved || followed !== wasFollowed
        ? keepList(backwards, backwardLanes(lanes, drivesOn, new Set(followed.keys())), is)
        : backwards,
    overlaps: other
      ? keepLists(
          overlaps,
          by(laneOverlaps(lanes), (o) => o.a),
          sameOverlap,
        )
      : overlaps,
    pairs: ruled ? keepLists(pairs, pairsByJunction(level, lanes), samePair) : pairs,
    walked: keepLists(walked, crossingsByJunction(level, lanes), sameCrossing),
    sites: ruled
      ? keepLists(
          sites,
          by(suggestJunctions(level, lanes), (site) => laneAt(lanes, site)),
          sameValue,
        )
      : sites,
  }
}

function pairsByJunction(level: Level, net: LaneNet): Map<string, readonly Pair[]> {
  return new Map(Object.entries(level.junctions).map(([id, junction]) => [id, pairsOf(level, net, junction)]))
}

function crossingsByJunction(level: Level, net: LaneNet): Map<string, readonly CrossingAt[]> {
  const lit = Object.entries(level.junctions).filter(([, { control }]) => control === 'signals')
  return new Map(lit.map(([id, junction]) => [id, crossingsAt(level, net, walkedLanes(level), junction)]))
}

function sameNet(a: LaneNet, b: LaneNet): boolean {
  if (a === b) return true
  if (a.lanes.size !== b.lanes.size || a.moves.size !== b.moves.size) return false
  for (const [id, lane] of b.lanes) if (a.lanes.get(id) !== lane) return false
  for (const [id, move] of b.moves) if (a.moves.get(id) !== move) return false
  return true
}

const is = <T>(a: T, b: T) => a === b
const sameSuggestion = (a: Suggestion, b: Suggestion) =>
  a.from === b.from && a.to === b.to && a.gapM === b.gapM && a.goesOn === b.goesOn
const sameOverlap = (a: LaneOverlap, b: LaneOverlap) => a.b === b.b && a.lengthM === b.lengthM
/** The lane a site is told at. */
const laneAt = (net: LaneNet, { linkIds, laneIds }: JunctionSite): string =>
  linkIds.length > 0 ? net.moves.get(linkIds[0])!.from : laneIds[0]
const samePair = (a: Pair, b: Pair) =>
  a.a.id === b.a.id &&
  a.b.id === b.b.id &&
  a.a.bodyM === b.a.bodyM &&
  sameValue(a.conflicts, b.conflicts) &&
  sameValue(a.settled, b.settled)

const sameCrossing = (a: CrossingAt, b: CrossingAt) =>
  a.crossing.laneId === b.crossing.laneId &&
  sameValue(a.crossing.line.places, b.crossing.line.places) &&
  sameValue(a.ways.map(passing), b.ways.map(passing))
const passing = ({ way }: CrossingAt['ways'][number]) => [way.id, way.turnRad]

function by<T>(list: readonly T[], key: (one: T) => string): Map<string, T[]> {
  const map = new Map<string, T[]>()
  for (const one of list) {
    const own = map.get(key(one))
    if (own) own.push(one)
    else map.set(key(one), [one])
  }
  return map
}

function keepList<V>(before: readonly V[], after: readonly V[], same: (a: V, b: V) => boolean): readonly V[] {
  if (before === after) return before
  return before.length === after.length && before.every((v, k) => same(v, after[k])) ? before : after
}

/** The new lists, but with the old object wherever a list, or all of them, came out the same. */
export function keepLists<V>(
  before: ReadonlyMap<string, readonly V[]>,
  after: ReadonlyMap<string, readonly V[]>,
  same: (a: V, b: V) => boolean,
): ReadonlyMap<string, readonly V[]> {
  const out = new Map<string, readonly V[]>()
  let unchanged = before.size === after.size
  for (const [key, list] of after) {
    const old = before.get(key)
    const kept = old ? keepList(old, list, same) : list
    if (kept !== old) unchanged = false
    out.set(key, kept)
  }
  return unchanged ? before : out
}
