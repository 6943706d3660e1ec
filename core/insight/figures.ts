import { FRAMES_PER_SECOND } from '@tidytrail/core/rehearsal'
import { keysOf } from './whom'
import { longestStuck, tryAll, type Examined, type TrialResult } from './trials'

export interface Figure {
  readonly name: string
  readonly unit: string
  readonly value: number
}

/** What is kept of one of many rehearsals: enough to tell which to look at. */
export interface RunFigures {
  readonly seed: number
  readonly hash: string
  /** Does everybody follow, and does every trial hold that can be told? */
  readonly passes: boolean
  readonly figures: readonly Figure[]
  /** Trials by their ids: do they hold? */
  readonly trials: readonly Pick<TrialResult, 'trialId' | 'holds' | 'words' | 'momentS'>[]
}

const EVERYBODY = { whom: 'everybody', spawnerId: null, factionId: null, routeId: null } as const

/** The figures of a rehearsal. @param hash of its recording */
export function runFigures(of: Examined, hash: string): RunFigures {
  const { recorded, verdicts, level } = of
  const tried = verdicts.filter((v) => v.key !== 0 && v.excused !== true)
  const trials = tryAll(of)
  const figures: Figure[] = []
  const add = (name: string, unit: string, value: number | undefined) => {
    if (value !== undefined && Number.isFinite(value)) figures.push({ name, unit, value })
  }
  const failing = tried.filter((v) => v.verdict === 'does-not-follow')
  add('do not follow', '', failing.length)
  add('with remarks', '', tried.filter((v) => v.verdict === 'follows-with-remarks').length)
  add(
    'stops made',
    '',
    verdicts.reduce((n, v) => n + v.stops.made, 0),
  )
  add('farthest off a line', 'm', Math.max(0, ...tried.map((v) => v.crossTrack.max)))
  add('off their lines, 95 %', 'm', Math.max(0, ...tried.map((v) => v.crossTrack.p95)))
  add('stuck the longest', 's', longestStuck(recorded, keysOf(recorded, EVERYBODY)).s)
  add(
    'overlaps',
    's',
    verdicts.reduce((s, v) => s + v.overlapS, 0),
  )
  const took = tried.reduce((s, v) => s + v.legs.tookS, 0)
  const expected = tried.reduce((s, v) => s + v.legs.expectedS, 0)
  if (expected > 0) add('time on legs', '% of expected', (100 * took) / expected)
  add('seen by others', 'times', recorded.events.filter((e) => e.kind === 'saw').length)
  const done = recorded.events.filter((e) => e.kind === 'finished')
  if (done.length > 0) add('last one done', 's', done[done.length - 1].step * recorded.stepS)
  for (const [id, spot] of Object.entries(level.watchSpots)) {
    const { figures: f } = of.spot(id)
    add(`${spot.name}: longest window`, 's', f.longestS)
    add(`${spot.name}: unwatched`, '%', 100 * f.share)
  }
  for (const [id, line] of Object.entries(level.sneakLines)) {
    const answer = of.line(id)
    add(`${line.name}: longest window`, 's', answer.figures.longestS)
    add(`${line.name}: slack`, 's', Math.min(answer.best?.slackS ?? 0, recorded.frameCount / FRAMES_PER_SECOND))
    if (answer.best) add(`${line.name}: earliest start`, 's', answer.earliest?.startS)
  }
  return {
    seed: recorded.seed,
    hash,
    passes: failing.length === 0 && trials.every((t) => t.holds !== false),
    figures,
    trials: trials.map(({ trialId, holds, words, momentS }) => ({ trialId, holds, words, momentS })),
  }
}

/** A figure over many runs: its least, quartiles, greatest, and the seeds of the ends. */
export interface Spread {
  readonly name: string
  readonly unit: string
  readonly count: number
  readonly least: number
  readonly low: number
  readonly middle: number
  readonly high: number
  readonly greatest: number
  readonly leastSeed: number
  readonly greatestSeed: number
}

/** How the figures of many runs are spread. */
export function spreads(runs: readonly RunFigures[]): Spread[] {
  const names = [...new Set(runs.flatMap((run) => run.figures.map((f) => f.name)))]
  return names.map((name) => {
    const all = runs.flatMap((run) => run.figures.filter((f) => f.name === name).map((f) => ({ ...f, seed: run.seed })))
    all.sort((p, q) => p.value - q.value || p.seed - q.seed)
    const values = all.map((f) => f.value)
    return {
      name,
      unit: all[0].unit,
      count: all.length,
      least: values[0],
      low: quantile(values, 0.25),
      middle: quantile(values, 0.5),
      high: quantile(values, 0.75),
      greatest: values[values.length - 1],
      leastSeed: all[0].seed,
      greatestSeed: all[all.length - 1].seed,
    }
  })
}

/** A quantile of sorted values, between them where need be (Hyndman and Fan 1996, type 7). */
export function quantile(sorted: readonly number[], share: number): number {
  const at = (sorted.length - 1) * share
  const k = Math.floor(at)
  const next = sorted[Math.min(sorted.length - 1, k + 1)]
  return sorted[k] + (next - sorted[k]) * (at - k)
}

/** The share of runs that pass, and of each trial the share of those in which it could be told and held. */
export function passing(runs: readonly RunFigures[]) {
  const trials = new Map<string, { held: number; told: number; failed: number[] }>()
  for (const run of runs)
    for (const t of run.trials) {
      let of = trials.get(t.trialId)
      if (!of) trials.set(t.trialId, (of = { held: 0, told: 0, failed: [] }))
      if (t.holds === undefined) continue
      of.told++
      if (t.holds) of.held++
      else of.failed.push(run.seed)
    }
  return { runs: runs.length, passed: runs.filter((r) => r.passes).length, trials }
}

/** The seed that came out worst: most that fail, then most trials that fail, then stuck the longest. */
export function worstSeed(runs: readonly RunFigures[]): number | undefined {
  const weight = (run: RunFigures) => {
    const value = (name: string) => run.figures.find((f) => f.name === name)?.value ?? 0
    return [
      run.trials.filter((t) => t.holds === false).length,
      value('do not follow'),
      value('stuck the longest'),
      value('with remarks'),
    ]
  }
  const sorted = [...runs].sort((p, q) => {
    const [a, b] = [weight(p), weight(q)]
    for (let k = 0; k < a.length; k++) if (a[k] !== b[k]) return b[k] - a[k]
    return p.seed - q.seed
  })
  return sorted[0]?.seed
}
