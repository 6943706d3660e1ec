import { wrapAngle } from '@tidytrail/core/geometry'
import type { Junction, Level, Phase } from '@tidytrail/core/level'
import { waysOf, type JunctionParts, type Way } from './junction'
import type { LaneNet, NetMove } from './net'
import { cycleS, lightAt, phaseS } from './signals'
import { UNLIMITED_MPS } from './watch'

/** A signal on the way along a corridor. */
export interface WaveSignal {
  readonly junctionId: string
  /** The way through the junction. */
  readonly wayId: string
  /** From the beginning of the corridor to its line: metres, and seconds at the speed limits. */
  readonly atM: number
  readonly atS: number
}

/** A way along lanes, straight on at every end, and the signals on it. Metres, seconds. */
export interface Corridor {
  readonly laneIds: readonly string[]
  /** Where along the corridor each lane has its beginning; nearer by as much as it is come into farther on. */
  readonly beginsM: readonly number[]
  readonly signals: readonly WaveSignal[]
  readonly lengthM: number
}

/** Who sets off within it meets green all along: from when on, in the clock all junctions share, and for how long, seconds. */
export interface Band {
  readonly fromS: number
  readonly widthS: number
}

/** Straight on is no more of a turn than this, radians. */
const STRAIGHT_RAD = 0.8
/** A corridor has no more lanes than this. */
const MOST_LANES = 60

/** The way along a lane: as far back and ahead as it is straight on. */
export function corridorOf(level: JunctionParts, net: LaneNet, laneId: string): Corridor {
  const signalled = signalledWays(level, net)
  const straightest = (
    moves: readonly NetMove[] | undefined,
    taken: ReadonlySet<string>,
    end: 'from' | 'to',
  ): NetMove | undefined =>
    (moves ?? [])
      .filter((m) => Math.abs(m.turnRad) < STRAIGHT_RAD && !taken.has(m[end]))
      .sort((a, b) => Math.abs(a.turnRad) - Math.abs(b.turnRad) || (a[end] < b[end] ? -1 : 1))[0]
  const seen = new Set([laneId])
  let first = laneId
  for (let k = 0; k < MOST_LANES / 2; k++) {
    const into = straightest(net.into.get(first), seen, 'from')
    if (!into) break
    first = into.from
    seen.add(first)
  }
  const laneIds: string[] = []
  const beginsM: number[] = []
  const signals: WaveSignal[] = []
  const been = new Set<string>()
  let [atM, atS, fromM] = [0, 0, 0]
  let now: string | undefined = first
  while (now !== undefined && laneIds.length < MOST_LANES) {
    const lane = net.lanes.get(now)!
    laneIds.push(now)
    beginsM.push(atM - fromM)
    been.add(now)
    const mps = lane.route.speedLimitMps ?? UNLIMITED_MPS
    const move: NetMove | undefined = straightest(net.out.get(now), been, 'to')
    const toM = move?.fromM ?? lane.line.lengthM
    for (const { junctionId, way } of signalled.get(now) ?? [])
      if (way.fromM >= fromM && way.fromM < toM)
        signals.push({ junctionId, wayId: way.id, atM: atM + way.fromM - fromM, atS: atS + (way.fromM - fromM) / mps })
    atM += toM - fromM
    atS += (toM - fromM) / mps
    if (!move) break
    for (const { junctionId, way } of signalled.get(move.id) ?? [])
      signals.push({ junctionId, wayId: way.id, atM, atS })
    atM += move.line.lengthM
    atS += move.line.lengthM / mps
    fromM = move.toM
    now = move.to
  }
  return { laneIds, beginsM, signals, lengthM: atM }
}

/** The ways through signalled junctions, by the link or the lane each is. */
function signalledWays(level: JunctionParts, net: LaneNet): Map<string, { junctionId: string; way: Way }[]> {
  const by = new Map<string, { junctionId: string; way: Way }[]>()
  for (const junctionId of Object.keys(level.junctions).sort()) {
    const junction = level.junctions[junctionId]
    if (junction.control !== 'signals') continue
    for (const way of waysOf(level, net, junction)) by.set(way.id, [...(by.get(way.id) ?? []), { junctionId, way }])
  }
  return by
}

/** The way back through the same junctions; undefined where there is none. */
export function wayBack(level: JunctionParts, net: LaneNet, out: Corridor): Corridor | undefined {
  const last = out.signals[out.signals.length - 1]
  if (!last) return undefined
  const ways = waysOf(level, net, level.junctions[last.junctionId])
  const own = ways.find((w) => w.id === last.wayId)!
  const wanted = out.signals.map((s) => s.junctionId).reverse().join(' ') // prettier-ignore
  for (const way of ways) {
    const against = Math.abs(wrapAngle(way.inRad - (own.inRad + own.turnRad) - Math.PI)) < STRAIGHT_RAD
    if (!against || Math.abs(way.turnRad) > STRAIGHT_RAD) continue
    const back = corridorOf(level, net, way.from)
    if (back.signals.map((s) => s.junctionId).join(' ') === wanted) return back
  }
  return undefined
}

type Span = readonly [fromS: number, toS: number]

/** When a way has green, within a cycle of the clock all junctions share, seconds; none that wraps round. */
export function greensOf(plan: Pick<Junction, 'phases' | 'offsetS'>, wayId: string): Span[] {
  const cycle = cycleS(plan)
  if (!(cycle > 0)) return []
  const edges = [0, cycle]
  let s = plan.offsetS
  for (const phase of plan.phases) {
    edges.push(s - cycle * Math.floor(s / cycle), s + phase.greenS - cycle * Math.floor((s + phase.greenS) / cycle))
    s += phaseS(phase)
  }
  edges.sort((a, b) => a - b)
  const spans: [number, number][] = []
  for (let k = 1; k < edges.length; k++) {
    const [from, to] = [edges[k - 1], edges[k]]
    if (to - from < 1e-9 || lightAt(plan, wayId, (from + to) / 2) !== 'green') continue
    const before = spans[spans.length - 1]
    if (before && from - before[1] < 1e-9) before[1] = to
    else spans.push([from, to])
  }
  return spans
}

/**
 * The widest band of departures from which green is met at every signal (Morgan and Little 1964). All plans have the
 * same cycle.
 * @param greens of each signal, in its cycle @param afterS how long after the departure each is come to, seconds
 */
export function bandOf(greens: readonly (readonly Span[])[], afterS: readonly number[], cycle: number): Band {
  const within = (s: number) => s - cycle * Math.floor(s / cycle)
  const edges = [0]
  greens.forEach((spans, k) => spans.forEach(([from, to]) => edges.push(within(from - afterS[k]), within(to - afterS[k])))) // prettier-ignore
  edges.sort((a, b) => a - b)
  const isGreen = (s: number) =>
    greens.every((spans, k) => {
      const at = within(s + afterS[k])
      return spans.some(([from, to]) => at >= from && at < to)
    })
  // Twice round, so that a band that leads over the end of the cycle is one.
  let best: Band = { fromS: 0, widthS: 0 }
  let from: number | undefined
  for (let k = 0; k < 2 * edges.length; k++) {
    const at = edges[k % edges.length] + (k < edges.length ? 0 : cycle)
    const next = edges[(k + 1) % edges.length] + (k + 1 < edges.length ? 0 : k + 1 < 2 * edges.length ? cycle : 2 * cycle) // prettier-ignore
    if (next - at < 1e-9) continue
    if (!isGreen((at + next) / 2)) from = undefined
    else {
      from ??= at
      const widthS = Math.min(cycle, next - from)
      if (widthS > best.widthS + 1e-9) best = { fromS: within(from), widthS }
    }
  }
  return best
}

/** A corridor with its way back, and the bands their signals leave. */
export interface Wave {
  readonly cycleS: number
  readonly out: Corridor
  readonly back: Corridor | undefined
  readonly bands: { readonly out: Band; readonly back: Band | undefined }
}

type Plans = Pick<Level, 'junctions'>

const bandAlong = ({ junctions }: Plans, { signals }: Corridor, cycle: number): Band =>
  bandOf(
    signals.map((s) => greensOf(junctions[s.junctionId], s.wayId)),
    signals.map((s) => s.atS),
    cycle,
  )

/** The green wave along a lane; or why there is none. */
export function waveOf(level: JunctionParts, net: LaneNet, laneId: string): Wave | { readonly why: string } {
  const out = corridorOf(level, net, laneId)
  if (out.signals.length < 2) return { why: 'Fewer than two signals lie along this way.' }
  const cycles = out.signals.map((s) => cycleS(level.junctions[s.junctionId]))
  if (Math.min(...cycles) <= 0) return { why: `${level.junctions[out.signals[cycles.indexOf(0)].junctionId].name} has no stage of any length.` } // prettier-ignore
  if (Math.max(...cycles) - Math.min(...cycles) > 0.05)
    return { why: `Their cycles differ: ${cycles.map((s) => `${Math.round(s * 10) / 10} s`).join(', ')}.` }
  const [cycle] = cycles
  const back = wayBack(level, net, out)
  return {
    cycleS: cycle,
    out,
    back,
    bands: { out: bandAlong(level, out, cycle), back: back && bandAlong(level, back, cycle) },
  }
}

/** Stages as long as another cycle, each green longer or shorter by the same share. */
export function stretchedTo(phases: readonly Phase[], cycle: number): Phase[] {
  const green = phases.reduce((sum, p) => sum + p.greenS, 0)
  const share = green > 0 ? (cycle - cycleS({ phases: [...phases], offsetS: 0 }) + green) / green : 1
  return phases.map((p) => ({ ...p, greenS: Math.max(0, Math.round(p.greenS * share * 1000) / 1000) }))
}

/** The longest of the cycles along a corridor, and the stages of those that are shorter made as long. */
export function oneCycle({ junctions }: Plans, { signals }: Corridor): Record<string, Pick<Junction, 'phases'>> {
  const longest = Math.max(...signals.map((s) => cycleS(junctions[s.junctionId])))
  const shorter = signals.filter((s) => cycleS(junctions[s.junctionId]) < longest - 1e-9)
  return Object.fromEntries(shorter.map((s) => [s.junctionId, { phases: stretchedTo(junctions[s.junctionId].phases, longest) }])) // prettier-ignore
}

/**
 * When each signal of a wave is to begin, whole seconds, so that the bands are as wide as they get: that of the way out
 * alone, or those of both ways together and the narrower of them once more. Found by turning one signal after the other, from several beginnings, until
 * none can be bettered; the first stays as it is.
 */
export function waveOffsets(
  { junctions }: Plans,
  { cycleS: cycle, out, back }: Wave,
  both: boolean,
): Record<string, number> {
  // prettier-ignore
  const ids = out.signals.map((s) => s.junctionId)
  const known = (corridor: Corridor) =>
    corridor.signals.map((s) => ({
      k: ids.indexOf(s.junctionId),
      atS: s.atS,
      greens: greensOf({ ...junctions[s.junctionId], offsetS: 0 }, s.wayId),
    }))
  const ways = [known(out), ...(both && back ? [known(back)] : [])]
  const value = (offsets: readonly number[]) => {
    const widths = ways.map(
      (way) =>
        bandOf(
          way.map((s) => s.greens),
          way.map((s) => s.atS - offsets[s.k]),
          cycle,
        ).widthS,
    )
    // Of both ways neither is given up for a little more of the other.
    return widths.reduce((a, b) => a + b, 0) + Math.min(...widths)
  }
  const first = junctions[ids[0]].offsetS
  const startOf = (k: number) => ways[0].find((s) => s.k === k)?.greens[0]?.[0] ?? 0
  const rolling = ids.map((_, k) => Math.round(first + startOf(0) + out.signals[k].atS - out.signals[0].atS - startOf(k))) // prettier-ignore
  const beginnings = [
    ids.map((id) => junctions[id].offsetS),
    rolling,
    ids.map(() => first),
    ids.map((_, k) => first + (k % 2 === 0 ? 0 : Math.round(cycle / 2))),
  ]
  let best: { offsets: number[]; is: number } | undefined
  for (const beginning of beginnings) {
    const offsets = beginning.map((s, k) => (k === 0 ? first : Math.round(s)))
    let is = value(offsets)
    for (let better = true; better;) {
      better = false
      for (let k = 1; k < offsets.length; k++)
        for (let s = 0; s < cycle; s++) {
          const tried = offsets.map((o, q) => (q === k ? s : o))
          const now = value(tried)
          if (now <= is + 1e-9) continue
          offsets[k] = s
          is = now
          better = true
        }
    }
    if (!best || is > best.is + 1e-9) best = { offsets, is }
  }
  return Object.fromEntries(ids.map((id, k) => [id, k === 0 ? first : best!.offsets[k] - cycle * Math.floor(best!.offsets[k] / cycle)])) // prettier-ignore
}
