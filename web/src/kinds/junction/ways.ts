import { bearingOf } from '@tidytrail/core/geometry'
import type { Junction, Level } from '@tidytrail/core/level'
import { laneNet, pairKey, pairsOf, waysOf, yieldKey, yieldOf, type Pair, type Way } from '@tidytrail/core/traffic'

/** A junction as it is shown: its ways, numbered from one, and what any two of them do to each other. */
export interface JunctionPlan {
  readonly ways: readonly Way[]
  readonly pairs: readonly Pair[]
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
    kept.plans.set(id, (plan = { ways, pairs, pairOf }))
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
