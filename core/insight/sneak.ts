import { distance3, type Point3 } from '@tidytrail/core/geometry'
import type { SneakLine } from '@tidytrail/core/level'
import { FRAMES_PER_SECOND, type Recorded } from '@tidytrail/core/rehearsal'
import { loudnessAt, Lookers, looksOf, type Look } from './lookers'
import { bestPlan, earliestPlan, farthest, safeStarts, type Plan, type SafeGrid } from './safe-way'
import { spanFigures, spansOf, type Span, type SpanFigures } from './spans'

/** Sight is looked at along the line this often, metres: a place counts as seen when either of those about it is. */
const SAMPLE_M = 0.5
/** Nobody counts as going slower than this share of the pace. */
const MOST_SLOW = 8
/** Places of a line times steps, at most: a longer line is looked at in coarser places. */
const MOST_CELLS = 40_000_000
const STEP_S = 1 / FRAMES_PER_SECOND

/** A stretch of a plan: from metres along the line to metres, seconds to seconds. */
export interface SneakMove {
  readonly fromM: number
  readonly toM: number
  readonly fromS: number
  readonly toS: number
}

/** How a player gets along a line unseen. Seconds and metres. */
export interface SneakPlan {
  readonly startS: number
  readonly endS: number
  readonly moves: readonly SneakMove[]
  /** All of it may be this much late or early. */
  readonly slackS: number
  /** Where and when it is as tight as that, and whose look it is. */
  readonly tightest: { readonly s: number; readonly m: number; readonly at: Point3; readonly by: number | undefined }
}

/** What is found about a sneak line in a recording. */
export interface SneakAnswer {
  readonly lengthM: number
  readonly ofS: number
  readonly lookers: number
  /** When one may set out and get through: its windows. */
  readonly starts: readonly Span[]
  readonly figures: SpanFigures
  readonly best: SneakPlan | undefined
  readonly earliest: SneakPlan | undefined
  /** Where there is no way: how far one gets, until when, and who sees what comes next. */
  readonly ends:
    { readonly m: number; readonly s: number; readonly at: Point3; readonly by: readonly number[] } | undefined
  /** When each place along the line is seen, every so many metres from its start. */
  readonly everyM: number
  readonly seen: readonly (readonly Span[])[]
}

/** A line measured: places along it by metres. */
export class Measured {
  private readonly s: number[] = [0]

  constructor(readonly points: readonly Point3[]) {
    for (let k = 1; k < points.length; k++) this.s.push(this.s[k - 1] + distance3(points[k - 1], points[k]))
  }

  get lengthM(): number {
    return this.s[this.s.length - 1]
  }

  /** How far along its corners are, metres. */
  get corners(): readonly number[] {
    return this.s
  }

  at(m: number): Point3 {
    const { s, points } = this
    let k = 1
    while (k < s.length - 1 && s[k] < m) k++
    const length = s[k] - s[k - 1]
    const share = length > 0 ? Math.min(1, Math.max(0, (m - s[k - 1]) / length)) : 0
    const [a, b] = [points[k - 1], points[k]]
    return [a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1]), a[2] + share * (b[2] - a[2])]
  }
}

/** When the samples of a line are seen, and from what loudness on somebody there is heard. */
class Looked {
  readonly samples: readonly Point3[]
  readonly steps: number
  /** Of each sample and step, by how many steps the next look misses it: 0 while it is seen. */
  readonly slack: Uint16Array
  readonly loud: Float32Array | undefined

  constructor(
    private readonly lookers: Lookers,
    private readonly line: SneakLine,
    measured: Measured,
    readonly everyM: number,
  ) {
    const count = Math.max(2, Math.ceil(measured.lengthM / everyM) + 1)
    this.samples = Array.from({ length: count }, (_, i) => measured.at(Math.min(i * everyM, measured.lengthM)))
    this.steps = lookers.recorded.frameCount
    const seen = new Uint8Array(count * this.steps)
    this.loud = line.hears ? new Float32Array(count * this.steps).fill(Infinity) : undefined
    const looks = looksOf(lookers, { from: 0, to: this.steps, every: 1 }, (look) => this.lookedAt(look))
    for (const { k, found } of looks) {
      for (const i of found.seen) seen[i * this.steps + k] = 1
      if (!this.loud) continue
      for (const [i, loud] of found.heard) {
        const at = i * this.steps + k
        if (loud < this.loud[at]) this.loud[at] = loud
      }
    }
    this.slack = slackOf(seen, count, this.steps)
  }

  /** Which samples somebody sees now, and from what loudness on others are heard. */
  private lookedAt(look: Look) {
    const { samples, line } = this
    const seen: number[] = []
    const heard: [number, number][] = []
    const most = loudnessAt(line.paceMps)
    samples.forEach(([x, y, z], i) => {
      if (look.sees(x, y, z, line.heightM)) seen.push(i)
      if (!this.loud) return
      const loud = look.hearsFrom(x, y, z, line.heightM)
      if (loud <= most) heard.push([i, loud])
    })
    return { seen, heard }
  }

  private readonly rows = new Map<number, Uint16Array>()

  /** The slack of a place between two samples: the lesser of both. Places between the same ones have the same row. */
  slackOf([a, b]: readonly [number, number]): Uint16Array {
    let row = this.rows.get(a)
    if (row) return row
    const { steps, slack } = this
    row = slack.slice(a * steps, (a + 1) * steps)
    for (let k = 0; k < steps; k++) row[k] = Math.min(row[k], slack[b * steps + k])
    this.rows.set(a, row)
    return row
  }

  /** Who sees a sample at a step: keys. */
  by(i: number, step: number): number[] {
    const { lookers, line } = this
    const keys: number[] = []
    const [x, y, z] = this.samples[i]
    for (const { key, found } of looksOf(lookers, { from: step, to: step + 1, every: 1 }, (look) =>
      look.sees(x, y, z, line.heightM),
    ))
      if (found) keys.push(key)
    return keys
  }
}

/** How far off, in steps, the nearest look at each sample is. */
function slackOf(seen: Uint8Array, samples: number, steps: number): Uint16Array {
  const slack = new Uint16Array(samples * steps).fill(0xffff)
  for (let i = 0; i < samples; i++) {
    const row = i * steps
    let last = -0x10000
    for (let k = 0; k < steps; k++) {
      if (seen[row + k]) last = k
      slack[row + k] = Math.min(0xffff, k - last)
    }
    last = 0x20000
    for (let k = steps - 1; k >= 0; k--) {
      if (seen[row + k]) last = k
      slack[row + k] = Math.min(slack[row + k], last - k)
    }
  }
  return slack
}

/**
 * Is there a safe way along a sneak line? Worked out in place and time together: a player who may wait and change pace.
 * Being heard, where it counts, is not part of the slack.
 */
export function sneak(recorded: Recorded, line: SneakLine): SneakAnswer {
  const measured = new Measured(line.points)
  const { lengthM } = measured
  const lookers = new Lookers(recorded, line.factionIds)
  const steps = recorded.frameCount
  const fine = line.paceMps * STEP_S
  const cellM = Math.max(fine, (lengthM * steps) / MOST_CELLS)
  const cellSteps = Math.max(1, Math.round(cellM / fine))
  const cells = Math.max(1, Math.ceil(lengthM / (fine * cellSteps)))
  const mOf = (place: number) => Math.min(lengthM, place * fine * cellSteps)
  const looked = new Looked(lookers, line, measured, Math.max(SAMPLE_M, lengthM / 2000))
  const near = (place: number) => {
    const i = mOf(place) / looked.everyM
    const a = Math.min(looked.samples.length - 2, Math.floor(i))
    return [a, a + 1] as const
  }
  const pairs = Array.from({ length: cells + 1 }, (_, place) => near(place))
  const corners = new Set(measured.corners.map((m) => Math.round(m / (fine * cellSteps))))
  const slowest = Math.max(1, Math.min(MOST_SLOW, Math.floor(line.paceMps / line.slowMps)))
  const { loud, slack } = looked
  const loudness = Array.from({ length: slowest * cellSteps + 1 }, (_, pace) =>
    loudnessAt(pace === 0 ? 0 : (line.paceMps * cellSteps) / pace),
  )
  const grid: SafeGrid = {
    places: cells + 1,
    steps,
    slack: pairs.map((pair) => looked.slackOf(pair)),
    waits: (place) => line.waits === 'anywhere' || (line.waits === 'corners' && corners.has(place)),
    quickest: cellSteps,
    slowest: slowest * cellSteps,
    ...(loud && {
      heard: (place: number, k: number, pace: number) => {
        const [a, b] = pairs[place]
        return Math.min(loud[a * steps + k], loud[b * steps + k]) <= loudness[pace]
      },
    }),
  }
  const starts = spansOf(safeStarts(grid), 1, STEP_S)
  const told = (plan: Plan | undefined): SneakPlan | undefined => {
    if (!plan) return undefined
    const { place, step } = plan.tightest
    const m = mOf(place)
    return {
      startS: plan.start * STEP_S,
      endS: plan.end * STEP_S,
      moves: plan.moves.map((move) => ({
        fromM: mOf(move.fromPlace),
        toM: mOf(move.toPlace),
        fromS: move.fromStep * STEP_S,
        toS: move.toStep * STEP_S,
      })),
      slackS: plan.slack * STEP_S,
      tightest: { s: step * STEP_S, m, at: measured.at(m), by: whoseLook(looked, pairs[place], step, plan.slack) },
    }
  }
  const best = bestPlan(grid)
  return {
    lengthM,
    ofS: steps * STEP_S,
    lookers: lookers.count,
    starts,
    figures: spanFigures(starts, steps * STEP_S),
    best: told(best),
    earliest: best && told(earliestPlan(grid)),
    ends: best ? undefined : endOf(grid, looked, pairs, measured, mOf),
    everyM: looked.everyM,
    seen: looked.samples.map((_, i) => seenSpans(slack, i, steps)),
  }
}

/** Where one gets to at most, and who sees what comes next. */
function endOf(
  grid: SafeGrid,
  looked: Looked,
  pairs: readonly (readonly [number, number])[],
  measured: Measured,
  mOf: (place: number) => number,
): SneakAnswer['ends'] {
  const far = farthest(grid) ?? { place: 0, step: 0 }
  const next = Math.min(grid.places - 1, far.place + 1)
  const step = Math.min(grid.steps - 1, far.step + 1)
  const by = [...new Set([...pairs[next], ...pairs[far.place]].flatMap((i) => looked.by(i, step)))]
  const m = mOf(far.place)
  return { m, s: far.step * STEP_S, at: measured.at(m), by }
}

/** Who looks at a place the least slack away from a step. */
function whoseLook(looked: Looked, pair: readonly number[], step: number, slack: number): number | undefined {
  for (const k of [step + slack, step - slack]) {
    if (k < 0 || k >= looked.steps) continue
    for (const i of pair) {
      const [key] = looked.by(i, k)
      if (key !== undefined) return key
    }
  }
  return undefined
}

function seenSpans(slack: Uint16Array, i: number, steps: number): Span[] {
  const row = slack.subarray(i * steps, (i + 1) * steps)
  return spansOf(row, 0, STEP_S)
}
