/**
 * Is there a safe way along a line, in place and time together? The line is places a step of time apart at full pace;
 * one waits, goes on at full pace, or slower by whole steps. All that can be reached is reached place by place, as sets of
 * times (after safe intervals: Phillips and Likhachev 2011), so that nothing is missed that the grid can tell.
 */

/** A line in place and time. Times are steps, places are numbered from its start. */
export interface SafeGrid {
  /** Places, the start and the end among them; and steps. */
  readonly places: number
  readonly steps: number
  /**
   * Of each place, for every step: how many steps at least lie between it and the next one, before or after, at which
   * somebody sees the place; 0 while it is seen.
   */
  readonly slack: readonly ArrayLike<number>[]
  /** May one stand still at a place? */
  waits(place: number): boolean
  /** Steps from a place to the next at full pace, and at the slowest where one may not stand still; at least 1. */
  readonly quickest: number
  readonly slowest: number
  /** Is one heard at a place at a step, going so many steps a place, or standing with 0? */
  heard?(place: number, step: number, pace: number): boolean
}

/** A stretch of a plan: from one place and step to others. */
export interface Move {
  readonly fromPlace: number
  readonly toPlace: number
  readonly fromStep: number
  readonly toStep: number
}

export interface Plan {
  readonly moves: readonly Move[]
  readonly start: number
  readonly end: number
  /** Everything on it may be this many steps late or early. */
  readonly slack: number
  /** Where and when it is as tight as that. */
  readonly tightest: { readonly place: number; readonly step: number }
}

/** For how many steps in a row, from each on, one may be at a place, going at a pace or standing with 0. */
function runs(grid: SafeGrid, place: number, pace: number, least: number, out: Uint32Array): Uint32Array {
  const slack = grid.slack[place]
  let run = 0
  for (let k = grid.steps - 1; k >= 0; k--) {
    run = slack[k] > least && grid.heard?.(place, k, pace) !== true ? run + 1 : 0
    out[k] = run
  }
  return out
}

/** What can be reached from the start, place by place: 1 where one may be at a step, whether come or waiting. */
class Reached {
  /** `at[place * steps + step]`: one may be there then. */
  readonly at: Uint8Array
  /** The farthest place reached. */
  farthest = -1

  constructor(
    private readonly grid: SafeGrid,
    /** Only moments with more slack than this count. */
    private readonly least: number,
    /** The only step at which one may set out, where there is but one. */
    only?: number,
  ) {
    const { places, steps, slack } = grid
    this.at = new Uint8Array(places * steps)
    for (let k = 0; k < steps; k++) this.at[k] = slack[0][k] > least && (only === undefined || k === only) ? 1 : 0
    const run = new Uint32Array(steps)
    for (let p = 0; p < places; p++) {
      this.wait(p)
      if (p + 1 < places) this.step(p, run)
      if (this.at.subarray(p * steps, (p + 1) * steps).includes(1)) this.farthest = p
      else break
    }
  }

  /** Whoever is at a place stays there as long as that is safe, where one may. Before one sets out one is nowhere yet. */
  private wait(p: number): void {
    const { grid, at, least } = this
    if (p === 0 || !grid.waits(p)) return
    const row = p * grid.steps
    const slack = grid.slack[p]
    for (let k = 1; k < grid.steps; k++)
      if (at[row + k - 1] && !at[row + k] && slack[k] > least && grid.heard?.(p, k - 1, 0) !== true) at[row + k] = 1
  }

  /** From a place to the next one at every pace there is. */
  private step(p: number, run: Uint32Array): void {
    const { grid, at, least } = this
    const { steps, quickest, slowest } = grid
    const row = p * steps
    const next = grid.slack[p + 1]
    for (let pace = quickest; pace <= slowest; pace++) {
      // Without ears every pace may be kept up for as long.
      if (pace === quickest || grid.heard) runs(grid, p, pace, least, run)
      for (let k = 0; k + pace < steps; k++)
        if (at[row + k] && run[k] >= pace && next[k + pace] > least) at[row + steps + k + pace] = 1
    }
  }

  /** Can one go from a place at a step to the next place at a pace? */
  private goes(p: number, k: number, pace: number): boolean {
    const { grid, least } = this
    for (let q = 0; q < pace; q++) {
      if (grid.slack[p][k + q] <= least || grid.heard?.(p, k + q, pace) === true) return false
    }
    return grid.slack[p + 1][k + pace] > least
  }

  /** The first step at which one may be at the end; −1 when one never may. */
  get arrival(): number {
    const { places, steps } = this.grid
    return this.at.subarray((places - 1) * steps).indexOf(1)
  }

  /** Back from an arrival to the start: where one was at which step. */
  back(end: number): { place: number; step: number }[] {
    const { grid, at } = this
    let p = grid.places - 1
    let k = end
    const way = [{ place: p, step: k }]
    while (p > 0) {
      const row = p * grid.steps
      const pace = this.cameBy(p, k)
      if (pace > 0) {
        p--
        k -= pace
      } else if (k > 0 && at[row + k - 1]) k--
      else throw new Error(`nothing leads to place ${p} at step ${k}`)
      way.push({ place: p, step: k })
    }
    return way.reverse()
  }

  /** The pace at which one comes to a place at a step from the one before; 0 where one was waiting there. */
  private cameBy(p: number, k: number): number {
    const { grid, at } = this
    for (let pace = grid.quickest; pace <= grid.slowest; pace++)
      if (k - pace >= 0 && at[(p - 1) * grid.steps + k - pace] && this.goes(p - 1, k - pace, pace)) return pace
    return 0
  }
}

/** The steps at which one may set out and get to the end unseen: 1 for each that one may. */
export function safeStarts(grid: SafeGrid): Uint8Array {
  const { places, steps, quickest, slowest } = grid
  let next = new Uint8Array(steps)
  for (let k = 0; k < steps; k++) next[k] = grid.slack[places - 1][k] > 0 ? 1 : 0
  const run = new Uint32Array(steps)
  for (let p = places - 2; p >= 0; p--) {
    const here = new Uint8Array(steps)
    for (let pace = quickest; pace <= slowest; pace++) {
      if (pace === quickest || grid.heard) runs(grid, p, pace, 0, run)
      for (let k = 0; k + pace < steps; k++) if (run[k] >= pace && next[k + pace]) here[k] = 1
    }
    if (p > 0 && grid.waits(p)) {
      runs(grid, p, 0, 0, run)
      for (let k = steps - 2; k >= 0; k--) if (run[k] > 0 && here[k + 1]) here[k] = 1
    }
    next = here
  }
  return next
}

/** The plan that has most slack where it is tightest, and of those the one that is through first; undefined when there is no way. */
export function bestPlan(grid: SafeGrid): Plan | undefined {
  if (new Reached(grid, 0).arrival < 0) return undefined
  // The more slack is asked for, the less can be reached: found by halving.
  let low = 0
  let high = 1 + Math.min(...grid.slack.map((row) => greatestIn(row)))
  while (high - low > 1) {
    const mid = (low + high) >> 1
    if (new Reached(grid, mid).arrival >= 0) low = mid
    else high = mid
  }
  return planOf(grid, new Reached(grid, low))
}

/** The greatest of some numbers; a row that several places share is looked at once. */
const greatests = new WeakMap<ArrayLike<number>, number>()
function greatestIn(row: ArrayLike<number>): number {
  let most = greatests.get(row)
  if (most === undefined) {
    most = 0
    for (let k = 0; k < row.length; k++) if (row[k] > most) most = row[k]
    greatests.set(row, most)
  }
  return most
}

/** The plan that sets out first. */
export function earliestPlan(grid: SafeGrid): Plan | undefined {
  const starts = safeStarts(grid)
  const start = starts.indexOf(1)
  if (start < 0) return undefined
  return planOf(grid, new Reached(grid, 0, start))
}

/** How far one gets where there is no way: the farthest place, and the last step at which one may be there. */
export function farthest(grid: SafeGrid): { place: number; step: number } | undefined {
  const reached = new Reached(grid, 0)
  if (reached.farthest < 0) return undefined
  const row = reached.farthest * grid.steps
  return { place: reached.farthest, step: reached.at.subarray(row, row + grid.steps).lastIndexOf(1) }
}

function planOf(grid: SafeGrid, reached: Reached): Plan | undefined {
  const end = reached.arrival
  if (end < 0) return undefined
  const way = reached.back(end)
  let tightest = way[0]
  let slack = Infinity
  way.forEach(({ place, step }, k) => {
    // Who goes slowly is at a place for several steps.
    const until = way[k + 1]?.step ?? step + 1
    for (let at = step; at < until; at++) {
      const here = grid.slack[place][at]
      if (here >= slack) continue
      slack = here
      tightest = { place, step: at }
    }
  })
  return { moves: movesOf(way), start: way[0].step, end, slack, tightest }
}

/** The same way in stretches of one pace each. */
function movesOf(way: readonly { place: number; step: number }[]): Move[] {
  const moves: Move[] = []
  for (let k = 1; k < way.length; k++) {
    const [a, b] = [way[k - 1], way[k]]
    const last = moves.at(-1)
    const paced = b.place - a.place === 0 ? 0 : b.step - a.step
    const lastPaced =
      last && (last.toPlace === last.fromPlace ? 0 : (last.toStep - last.fromStep) / (last.toPlace - last.fromPlace))
    if (last && lastPaced === paced) moves[moves.length - 1] = { ...last, toPlace: b.place, toStep: b.step }
    else moves.push({ fromPlace: a.place, toPlace: b.place, fromStep: a.step, toStep: b.step })
  }
  return moves
}
