import type { Counter } from '@tidytrail/core/level'
import { FRAMES_PER_SECOND, type Recorded } from '@tidytrail/core/rehearsal'
import { fundamentalDiagram, laneNet, type NetLane } from '@tidytrail/core/traffic'
import { quantile } from '../figures'
import type { OnLane } from './walk'

/** Headways are told in steps of so many seconds up to so many. */
export const HEADWAY_STEP_S = 1
export const HEADWAY_STEPS = 30

/** One who passed a counter. Seconds, metres a second. */
export interface Passing {
  readonly t: number
  readonly key: number
  readonly mps: number
}

/** What passed within a stretch of time. Flow in vehicles an hour, density in vehicles a kilometre. */
export interface CountSpan {
  readonly fromS: number
  readonly toS: number
  readonly count: number
  readonly perH: number
  /** Mean over those who passed, and over the road at one moment (harmonic); 0 where nobody passed. */
  readonly mps: number
  readonly spaceMps: number
  readonly perKm: number
}

export interface CounterFigures {
  readonly count: number
  readonly perH: number
  readonly mps: number
  readonly spaceMps: number
  readonly perKm: number
  /** Time between one and the next: how many in each step, the last for all that are longer. */
  readonly headways: readonly number[]
  readonly headwayS: number
  readonly spans: readonly CountSpan[]
  /** Of those who passed this and then the other counter: how many, and how long they took. */
  readonly travel: { readonly count: number; readonly meanS: number; readonly medianS: number; readonly p95S: number } | undefined // prettier-ignore
  /** The model's own flow by density for those who pass most here. */
  readonly curve: readonly { readonly perKm: number; readonly perH: number; readonly mps: number }[]
}

/** Where a counter stands on its lane; undefined where it has none. */
export function counterPlace(
  lanes: ReadonlyMap<string, NetLane>,
  { laneId, atM }: Pick<Counter, 'laneId' | 'atM'>,
): { lane: NetLane; m: number } | undefined {
  const lane = laneId === null ? undefined : lanes.get(laneId)
  return lane && { lane, m: Math.min(atM, lane.line.lengthM) }
}

/** Notes who passes counters, while a recording is walked through. */
export class Counting {
  private readonly by = new Map<string, { id: string; m: number; passings: Passing[]; bodies: Map<string, number> }[]>()
  private readonly all = new Map<string, { passings: Passing[]; bodies: Map<string, number> }>()

  constructor(private readonly recorded: Recorded) {
    const { lanes } = laneNet(recorded.level)
    for (const [id, counter] of Object.entries(recorded.level.counters)) {
      const place = counterPlace(lanes, counter)
      if (!place) continue
      const own = { id, m: place.m, passings: [], bodies: new Map<string, number>() }
      this.all.set(id, own)
      this.by.set(place.lane.id, [...(this.by.get(place.lane.id) ?? []), own])
    }
  }

  take({ t, key, lane, m, beforeM, known, mps, profileId }: OnLane): void {
    const here = this.by.get(lane.id)
    if (!here) return
    const { lengthM } = lane.line
    for (const c of here) {
      // One who came onto the lane from another passed what lies at its beginning; one who appeared on it did not.
      const before = beforeM ?? (known ? -1 : m)
      const wrapped = lane.closed && m < before - lengthM / 2
      const passes = wrapped ? c.m > before || c.m <= m : before < c.m && c.m <= m
      if (!passes) continue
      c.passings.push({ t, key, mps })
      c.bodies.set(profileId, (c.bodies.get(profileId) ?? 0) + 1)
    }
  }

  figures(): Record<string, CounterFigures> {
    const { level, frameCount } = this.recorded
    const ofS = Math.max(0, frameCount - 1) / FRAMES_PER_SECOND
    const { lanes } = laneNet(level)
    return Object.fromEntries(
      [...this.all].map(([id, { passings, bodies }]) => {
        const { everyS, toId, laneId } = level.counters[id]
        const limit = lanes.get(laneId!)!.route.speedLimitMps ?? Infinity
        const to = toId ? this.all.get(toId)?.passings : undefined
        const headways = passings.slice(1).map((p, k) => p.t - passings[k].t)
        const bins = new Array<number>(HEADWAY_STEPS + 1).fill(0)
        for (const h of headways) bins[Math.min(HEADWAY_STEPS, Math.floor(h / HEADWAY_STEP_S))]++
        const whole = spanOf(passings, 0, ofS)
        const spans: CountSpan[] = []
        for (let s = 0; s + everyS <= ofS + 1e-6; s += everyS)
          spans.push(spanOf(passings.filter((p) => p.t >= s && p.t < s + everyS), s, s + everyS)) // prettier-ignore
        const { count, perH, mps, spaceMps, perKm } = whole
        const headwayS = headways.length > 0 ? mean(headways) : 0
        const body = [...bodies].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))[0]?.[0]
        const curve = body === undefined ? [] : curveOf(level.profiles[body], limit)
        return [id, { count, perH, mps, spaceMps, perKm, headways: bins, headwayS, spans, travel: travelOf(passings, to), curve }] // prettier-ignore
      }),
    )
  }
}

const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length

function spanOf(passings: readonly Passing[], fromS: number, toS: number): CountSpan {
  const count = passings.length
  const hours = (toS - fromS) / 3600
  const perH = hours > 0 ? count / hours : 0
  if (count === 0) return { fromS, toS, count, perH, mps: 0, spaceMps: 0, perKm: 0 }
  const mps = mean(passings.map((p) => p.mps))
  // Speeds at one place are of the fast more often than of the slow: over the road it is the harmonic mean (Wardrop 1952).
  const spaceMps = 1 / mean(passings.map((p) => 1 / Math.max(0.1, p.mps)))
  return { fromS, toS, count, perH, mps, spaceMps, perKm: perH / (3.6 * spaceMps) }
}

/** How long those took who passed one counter and then the other. */
function travelOf(from: readonly Passing[], to: readonly Passing[] | undefined): CounterFigures['travel'] {
  if (!to) return undefined
  const times: number[] = []
  const left = new Map<number, number>()
  const both = [...from.map((p) => ({ ...p, at: 0 })), ...to.map((p) => ({ ...p, at: 1 }))]
  both.sort((a, b) => a.t - b.t || a.at - b.at)
  for (const p of both) {
    if (p.at === 0) left.set(p.key, p.t)
    else if (left.has(p.key)) {
      times.push(p.t - left.get(p.key)!)
      left.delete(p.key)
    }
  }
  if (times.length === 0) return { count: 0, meanS: 0, medianS: 0, p95S: 0 }
  const sorted = times.sort((a, b) => a - b)
  return { count: sorted.length, meanS: mean(sorted), medianS: quantile(sorted, 0.5), p95S: quantile(sorted, 0.95) }
}

/** Flow by density when all drive as one profile does, at steady gaps. */
const curveOf = (profile: Recorded['level']['profiles'][string] | undefined, limit: number): CounterFigures['curve'] =>
  profile
    ? fundamentalDiagram(
        {
          wishMps: Math.min(limit, profile.gaits[profile.gait] ?? 1),
          accelMps2: profile.accelMps2,
          // Of no moment where nobody closes in on anybody.
          brakeMps2: profile.accelMps2,
          gapM: profile.keepsM,
          headwayS: profile.headwayS,
        },
        2 * profile.radiusM,
      )
    : []
