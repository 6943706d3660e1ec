import { bearingOf } from '@tidytrail/core/geometry'
import type { Junction, Level } from '@tidytrail/core/level'
import {
  crossingsAt,
  laneNet,
  pairKey,
  pairsOf,
  walkedLanes,
  waysOf,
  yieldKey,
  yieldOf,
  type CrossingAt,
  type Pair,
  type Way,
} from '@tidytrail/core/traffic'

/** A junction as it is shown: its ways, numbered from one, and what any two of them do to each other. */
export interface JunctionPlan {
  readonly ways: readonly Way[]
  readonly pairs: readonly Pair[]
  /** Where those who walk cross at it. */
  readonly crossings: readonly CrossingAt[]
  /** By the ids of both, in either order. */
  readonly pairOf: ReadonlyMap<string, Pair>
}

let kept: { level: Level; plans: Map<string, JunctionPlan> } | undefined

/** Worked out once for each state of a level. */
export function planOf(level: Level, id: string): JunctionPlan {
  if (kept?.level !== level) kept = { level, plans: new Map() }
  let plan = kept.plans.get(id)
  if (!plan) {
    const net = laneNet(level)
    const ways = [...waysOf(level, net, level.junctions[id])].sort(inTurn)
    const pairs = pairsOf(level, net, level.junctions[id])
    const pairOf = new Map(
      pairs.flatMap((p) => [[`${p.a.id} ${p.b.id}`, p] as const, [`${p.b.id} ${p.a.id}`, p] as const]),
    )
    const crossings = crossingsAt(level, net, walkedLanes(level), level.junctions[id])
    kept.plans.set(id, (plan = { ways, pairs, pairOf, crossings }))
  }
  return plan
}

/** By where they come from, as a clock goes round from north, and then from the turn to the left on. */
function inTurn(a: Way, b: Way): number {
  // Who comes from the north heads south.
  const from = (w: Way) => Math.round(bearingOf(w.inRad + Math.PI)) % 360
  return from(a) - from(b) || b.turnRad - a.turnRad || (a.id < b.id ? -1 : 1)
}

/** What a way is called: from where it comes and where it goes. */
export function wayWords(level: Level, way: Way): string {
  const name = (id: string) => level.routes[id]?.name ?? 'a lane'
  return way.isLink ? `${name(way.from)} into ${name(way.to)}` : name(way.id)
}

/** One that has green or not in a stage: a way, told by its number, or a crossing, told by a letter. */
export interface Shown {
  readonly id: string
  /** Is it named among the links of a stage, or among its lanes? */
  readonly list: 'linkIds' | 'laneIds'
  readonly sign: string
  readonly words: string
}

/** All that see lights at a junction, or could. A lane that is walked along over two crossings is shown once. */
export function shownAt(level: Level, id: string): Shown[] {
  const { ways, crossings } = planOf(level, id)
  const walked = [...new Set(crossings.map((c) => c.crossing.laneId))]
  return [
    ...ways.map((way, k) => ({
      id: way.id,
      list: way.isLink ? ('linkIds' as const) : ('laneIds' as const),
      sign: String(k + 1),
      words: wayWords(level, way),
    })),
    ...walked.map((laneId, k) => ({
      id: laneId,
      list: 'laneIds' as const,
      sign: String.fromCharCode('a'.charCodeAt(0) + (k % LETTERS)),
      words: `${level.routes[laneId]?.name ?? 'a lane'}, on foot`,
    })),
  ]
}
const LETTERS = 26

/** A cell of the table: what settles a pair as the way of the row sees it. */
export type Cell = 'none' | 'waits' | 'stops' | 'goes' | 'signal' | 'all-way' | 'side' | 'open'

export function cellOf(pair: Pair | undefined, rowId: string): Cell {
  if (!pair) return 'none'
  const { settled } = pair
  if (settled.by === 'nothing') return 'open'
  if ('who' in settled) return settled.who !== rowId ? 'goes' : settled.by === 'stops' ? 'stops' : 'waits'
  return settled.by
}

export const CELL_WORDS: Record<Cell, string> = {
  none: 'do not meet',
  waits: 'gives way to',
  stops: 'stops, and gives way to',
  goes: 'goes before',
  signal: 'is kept apart by signals from',
  'all-way': 'goes as it came, like',
  side: 'goes by the side it comes from, like',
  open: 'is not settled with',
}
export const CELL_SIGNS: Record<Cell, string> = {
  none: '',
  waits: '▽',
  stops: '■',
  goes: '•',
  signal: '≡',
  'all-way': '+',
  side: '/',
  open: '?',
}

/** What was said of two ways, with the row now waiting, going first, or neither, in turn. */
export function nextYields(junction: Junction, row: Way, column: Way, now: Cell): Junction['yields'] {
  const [ahead, back] = [pairKey(row.id, column.id), pairKey(column.id, row.id)]
  const rest = junction.yields.filter((y) => yieldKey(y) !== ahead && yieldKey(y) !== back)
  // How far it looks was said of the pair, and stays.
  const watchM = junction.yields.find((y) => yieldKey(y) === ahead)?.watchM ?? null
  if (now === 'waits') return [...rest, { ...yieldOf(row, column, true), watchM }]
  if (now === 'stops') return [...rest, yieldOf(column, row, false)]
  if (now === 'goes') return rest
  return [...rest, yieldOf(row, column, false)]
}
