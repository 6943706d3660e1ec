import type { Point3 } from '@tidytrail/core/geometry'
import { areaOf, trialSchema, type Level, type Trial, type TrialKind } from '@tidytrail/core/level'
import {
  FIELD,
  FRAME_FIELDS,
  FRAMES_PER_SECOND,
  LIMITS,
  STATES,
  type Recorded,
  type Verdict,
} from '@tidytrail/core/rehearsal'
import { coverage, coverageFigures } from './coverage'
import { sneak, type SneakAnswer } from './sneak'
import { longestWait } from './spans'
import { keysOf } from './whom'
import { trafficFigures, type TrafficFigures } from './traffic'
import { spotWindows, type SpotWindows } from './windows'

/** What came of a trial: does it hold, what was measured, and the moment and the place to look at. */
export interface TrialResult {
  readonly trialId: string
  /** undefined when it cannot be told, and `words` say why. */
  readonly holds: boolean | undefined
  readonly words: string
  readonly momentS: number | undefined
  readonly at: Point3 | undefined
  readonly keys: readonly number[]
}

/** A recording with what has been found out about it so far, so that nothing is worked out twice. */
export class Examined {
  private readonly spots = new Map<string, SpotWindows>()
  private readonly lines = new Map<string, SneakAnswer>()
  private flow: TrafficFigures | undefined

  constructor(
    readonly recorded: Recorded,
    readonly verdicts: readonly Verdict[],
  ) {}

  get level(): Level {
    return this.recorded.level
  }

  /** Seconds recorded. */
  get seconds(): number {
    return Math.max(0, this.recorded.frameCount - 1) / FRAMES_PER_SECOND
  }

  spot(id: string): SpotWindows {
    let found = this.spots.get(id)
    if (!found) this.spots.set(id, (found = spotWindows(this.recorded, this.level.watchSpots[id])))
    return found
  }

  line(id: string): SneakAnswer {
    let found = this.lines.get(id)
    if (!found) this.lines.set(id, (found = sneak(this.recorded, this.level.sneakLines[id])))
    return found
  }

  traffic(): TrafficFigures {
    return (this.flow ??= trafficFigures(this.recorded))
  }

  nameOf(key: number): string {
    return this.recorded.agents.find((a) => a.key === key)?.name ?? 'somebody'
  }

  /** Where somebody is at a time, metres; undefined while it is not there. */
  placeOf(key: number, t: number): Point3 | undefined {
    const { recorded } = this
    if (recorded.frameCount === 0) return undefined
    const frame = recorded.frame(Math.max(0, Math.min(recorded.frameCount - 1, Math.round(t * FRAMES_PER_SECOND))))
    for (let r = 0; r < frame.length; r += FRAME_FIELDS)
      if (frame[r] === key) return [frame[r + FIELD.x] / 1000, frame[r + FIELD.y] / 1000, frame[r + FIELD.z] / 1000]
    return undefined
  }
}

type Told = Omit<TrialResult, 'trialId'>
const s1 = (s: number) => `${s.toFixed(1)} s`
const told = (holds: boolean | undefined, words: string, more: Partial<Told> = {}): Told => ({
  holds,
  words,
  momentS: undefined,
  at: undefined,
  keys: [],
  ...more,
})
const cannot = (words: string): Told => told(undefined, words)

/** The moment somebody was at fault, with the place it was at. */
const moment = (of: Examined, momentS: number, key: number): Partial<Told> => ({
  momentS,
  at: of.placeOf(key, momentS),
  keys: [key],
})

const QUEUE = LIMITS.indexOf('queue')
const SETTING_OUT = LIMITS.indexOf('setting-out')
const [WALKING, DONE] = [STATES.indexOf('walking'), STATES.indexOf('done')]
/** Below this speed somebody who wants to walk is stuck, mm/s. */
const STUCK_MMPS = 50

const RUNS: Readonly<Record<TrialKind, (of: Examined, trial: Trial, keys: ReadonlySet<number>) => Told>> = {
  follows(of, _, keys) {
    const those = of.verdicts.filter((v) => keys.has(v.key) && v.excused !== true)
    const failing = those.filter((v) => !v.verdict.startsWith('follows'))
    if (those.length === 0) return cannot('None of them has a route to follow.')
    const [first] = failing
    if (!first) return told(true, `All ${those.length} follow.`)
    const event = of.recorded.events.find(
      (e) => e.key === first.key && (e.kind === 'blocked' || e.kind === 'stuck' || e.kind === 'strayed'),
    )
    const at = event ? event.step * of.recorded.stepS : of.seconds
    return told(
      false,
      `${failing.length} of ${those.length} do not: ${first.name}, for ${first.reasons[0] ?? 'it was not tried'}.`,
      moment(of, at, first.key),
    )
  },

  visits(of, { withinS }, keys) {
    let worst: { s: number; key: number; stop: number; fromS: number; route: number } | undefined
    for (const key of keys) for (const gap of visitGaps(of, key)) if (!worst || gap.s > worst.s) worst = { ...gap, key }
    if (!worst) return cannot('None of them has come to a stop of a route.')
    const { s, key, stop, fromS, route } = worst
    const name = of.level.routes[of.recorded.routes[route]]?.name ?? 'its route'
    const words = `${of.nameOf(key)} leaves stop ${stop + 1} of ${name} unvisited for ${s1(s)}`
    return s <= withinS
      ? told(true, `At worst ${words}.`)
      : told(false, `${words}, from ${s1(fromS)} on.`, moment(of, fromS + withinS, key))
  },

  stuck(of, { longestS }, keys) {
    const worst = longestStuck(of.recorded, keys)
    if (worst.s <= longestS + 1e-9) return told(true, `At most ${s1(worst.s)}.`)
    return told(false, `${of.nameOf(worst.key)} is stuck for ${s1(worst.s)}.`, moment(of, worst.fromS, worst.key))
  },

  spot(of, { spotId, windowS, everyS, fromS }) {
    const spot = of.level.watchSpots[spotId ?? '']
    if (!spot) return cannot('It names no watch spot, or one that is deleted.')
    const { open, figures, lookers } = of.spot(spotId!)
    if (lookers === 0) return told(true, 'There is nobody to watch it.')
    return waits(open, windowS, everyS, fromS, of.seconds, spot.at, figures.longestS)
  },

  line(of, { lineId, windowS, everyS, fromS }) {
    const line = of.level.sneakLines[lineId ?? '']
    if (!line) return cannot('It names no sneak line, or one that is deleted.')
    const answer = of.line(lineId!)
    if (answer.lookers === 0) return told(true, 'There is nobody to watch it.')
    if (answer.ends) {
      const { m, s, at, by } = answer.ends
      return told(false, `There is no safe way: at most ${m.toFixed(1)} m of ${answer.lengthM.toFixed(1)} m.`, {
        momentS: s,
        at,
        keys: by,
      })
    }
    // Who sets out too late for the end of what is rehearsed has not been seen to fail.
    const last = answer.ofS - answer.lengthM / line.paceMps
    return waits(
      answer.starts,
      windowS,
      everyS,
      fromS,
      Math.min(of.seconds, last),
      line.points[0],
      answer.figures.longestS,
    )
  },

  away(of, { zoneId, markerId, distanceM, fromS }, keys) {
    const zone = of.level.zones[zoneId ?? '']
    const marker = of.level.markers[markerId ?? '']
    const area = zone && areaOf(of.level, zone)
    if (!area && !marker) return cannot('It names no zone and no marker to keep away from.')
    const farM = (x: number, y: number, z: number) =>
      Math.min(
        area ? (area.holds(x, y, z) ? 0 : area.edgeM(x, y)) : Infinity,
        marker ? Math.sqrt((x - marker.at[0]) ** 2 + (y - marker.at[1]) ** 2) : Infinity,
      )
    let nearest = { m: Infinity, key: 0, s: 0 }
    let first: { key: number; s: number } | undefined
    eachRow(of.recorded, keys, fromS, (key, s, frame, r) => {
      const m = farM(frame[r + FIELD.x] / 1000, frame[r + FIELD.y] / 1000, frame[r + FIELD.z] / 1000)
      if (m < nearest.m) nearest = { m, key, s }
      if (m < distanceM && !first) first = { key, s }
    })
    if (nearest.m === Infinity) return cannot('None of them was there.')
    const words = `${of.nameOf(nearest.key)} comes within ${nearest.m.toFixed(1)} m`
    return first ? told(false, `${words}.`, moment(of, first.s, first.key)) : told(true, `At nearest ${words}.`)
  },

  count(of, { least, most, fromS }, keys) {
    let [low, high] = [Infinity, 0]
    let bad: { n: number; s: number } | undefined
    for (let k = Math.ceil(fromS * FRAMES_PER_SECOND); k < of.recorded.frameCount; k++) {
      const frame = of.recorded.frame(k)
      let n = 0
      for (let r = 0; r < frame.length; r += FRAME_FIELDS) if (keys.has(frame[r])) n++
      low = Math.min(low, n)
      high = Math.max(high, n)
      if ((n < least || n > most) && !bad) bad = { n, s: k / FRAMES_PER_SECOND }
    }
    if (low === Infinity) return cannot(`It is to hold from ${s1(fromS)} on, and less is rehearsed.`)
    if (!bad) return told(true, `Between ${low} and ${high} are there.`)
    return told(false, `${bad.n} are there at ${s1(bad.s)}; it is between ${low} and ${high} in all.`, {
      momentS: bad.s,
    })
  },

  sees(of, { zoneId, withinS }, keys) {
    const zone = of.level.zones[zoneId ?? '']
    const area = zone && areaOf(of.level, zone)
    if (!area) return cannot('It names no zone, or one that covers nothing.')
    const { squares, within, seen, never } = coverageFigures(coverage(of.recorded, { keys, area }), withinS)
    if (squares === 0) return cannot(`Nobody could stand anywhere in ${zone.name}.`)
    const pc = (share: number) => `${(100 * share).toFixed(share < 1 && share > 0.99 ? 1 : 0)} %`
    const words = `${pc(within)} of ${zone.name} is seen within ${s1(withinS)}, ${pc(seen)} at all`
    if (within >= 1) return told(true, `${words}.`)
    const [place] = never
    return told(false, `${words}.`, {
      momentS: Math.min(withinS, of.seconds),
      at: place ? [place[0], place[1], 0] : undefined,
    })
  },

  ends(of, { withinS }, keys) {
    const late = new Set(keys)
    for (const e of of.recorded.events)
      if ((e.kind === 'finished' || e.kind === 'left') && e.step * of.recorded.stepS <= withinS) late.delete(e.key)
    if (of.recorded.frameCount > 0) {
      const k = Math.min(of.recorded.frameCount - 1, Math.floor(withinS * FRAMES_PER_SECOND))
      const frame = of.recorded.frame(k)
      for (let r = 0; r < frame.length; r += FRAME_FIELDS) if (frame[r + FIELD.state] === DONE) late.delete(frame[r])
    }
    const [first] = late
    if (first === undefined) return told(true, `All ${keys.size} are.`)
    if (of.seconds < withinS) return cannot(`Only ${s1(of.seconds)} of ${s1(withinS)} are rehearsed.`)
    return told(false, `${late.size} of ${keys.size} are not: ${of.nameOf(first)}.`, moment(of, withinS, first))
  },
}

/** Kinds that are about agents, of whom there must be some. */
const ABOUT_AGENTS: ReadonlySet<TrialKind> = new Set(['follows', 'visits', 'stuck', 'away', 'count', 'sees', 'ends'])

/** Does a trial hold in a recording? */
export function tryOut(of: Examined, trialId: string): TrialResult {
  const trial = of.level.trials[trialId]
  const keys = keysOf(of.recorded, trial)
  const named = { everybody: true, spawner: trial.spawnerId, faction: trial.factionId, route: trial.routeId }[
    trial.whom
  ]
  if (ABOUT_AGENTS.has(trial.kind)) {
    if (!named) return { trialId, ...cannot(`It names no ${trial.whom}, or one that is deleted.`) }
    if (keys.size === 0 && trial.kind !== 'count') return { trialId, ...cannot('There is nobody it is about.') }
  }
  return { trialId, ...RUNS[trial.kind](of, trial, keys) }
}

/** All trials of a level that are looked at, as they came out. */
export const tryAll = (of: Examined): TrialResult[] =>
  Object.keys(of.level.trials)
    .filter((id) => !of.level.trials[id].off)
    .map((id) => tryOut(of, id))

function waits(
  spans: SneakAnswer['starts'],
  windowS: number,
  everyS: number,
  fromS: number,
  endS: number,
  at: Point3,
  longestS: number,
): Told {
  if (endS <= fromS) return cannot(`It is to hold from ${s1(fromS)} on, and less is rehearsed.`)
  const wait = longestWait(spans, windowS, fromS, endS)
  const most = `the longest is ${s1(longestS)}`
  if (wait.s <= everyS + 1e-9) return told(true, `One waits ${s1(wait.s)} at most for ${s1(windowS)}; ${most}.`)
  return told(false, `From ${s1(wait.from)} on one waits ${s1(wait.s)} for ${s1(windowS)}; ${most}.`, {
    momentS: wait.from,
    at,
  })
}

/** How long somebody leaves each stop of its routes unvisited: until it first comes, between visits, and since. */
function visitGaps({ recorded, seconds, level }: Examined, key: number) {
  const { events, stepS, routes, agents } = recorded
  const agent = agents.find((a) => a.key === key)
  const byStop = new Map<string, { route: number; stop: number; times: number[] }>()
  const seen = new Set<number>()
  for (const e of events) {
    if (e.key !== key || e.kind !== 'reached' || e.route < 0) continue
    if (!seen.has(e.route)) {
      seen.add(e.route)
      const stops = level.routes[routes[e.route]]?.order.length ?? 0
      for (let stop = 0; stop < stops; stop++) byStop.set(`${e.route} ${stop}`, { route: e.route, stop, times: [] })
    }
    byStop.get(`${e.route} ${e.a}`)?.times.push(e.step * stepS)
  }
  const from = agent?.appearedS ?? 0
  const to = agent?.leftS ?? seconds
  return [...byStop.values()].map(({ route, stop, times }) => {
    // Who goes one way once has been everywhere when it has been there.
    const once = level.routes[routes[route]]?.travel === 'one-way' && times.length > 0
    const at = [from, ...times, ...(once ? [] : [to])]
    let worst = { route, stop, s: 0, fromS: from }
    for (let k = 1; k < at.length; k++)
      if (at[k] - at[k - 1] > worst.s) worst = { route, stop, s: at[k] - at[k - 1], fromS: at[k - 1] }
    return worst
  })
}

/** Who wanted to get on and could not for the longest time in one go. */
export function longestStuck(recorded: Recorded, keys: ReadonlySet<number>): { s: number; key: number; fromS: number } {
  const since = new Map<number, number>()
  let worst = { s: 0, key: 0, fromS: 0 }
  eachRow(recorded, keys, 0, (key, s, frame, r) => {
    const limit = frame[r + FIELD.limit]
    const held =
      frame[r + FIELD.state] === WALKING &&
      frame[r + FIELD.speed] < STUCK_MMPS &&
      limit !== QUEUE &&
      limit !== SETTING_OUT
    if (!held) return void since.delete(key)
    const from = since.get(key) ?? s
    since.set(key, from)
    if (s - from > worst.s) worst = { s: s - from, key, fromS: from }
  })
  return worst
}

function eachRow(
  recorded: Recorded,
  keys: ReadonlySet<number>,
  fromS: number,
  see: (key: number, s: number, frame: Int32Array, row: number) => void,
): void {
  for (let k = Math.ceil(fromS * FRAMES_PER_SECOND); k < recorded.frameCount; k++) {
    const frame = recorded.frame(k)
    for (let r = 0; r < frame.length; r += FRAME_FIELDS)
      if (keys.has(frame[r])) see(frame[r], k / FRAMES_PER_SECOND, frame, r)
  }
}

const up = (value: number, step: number) => Math.ceil(value / step) * step

/** Trials that hold in what was seen, with a little room: to be kept as they are, or made stricter. */
export function suggestTrials(of: Examined): Trial[] {
  const { level, recorded } = of
  const list: Trial[] = []
  const add = (trial: Partial<Trial> & Pick<Trial, 'kind'>) => list.push(trialSchema.parse(trial))
  const everybody = keysOf(recorded, trialSchema.parse({}))
  if (everybody.size > 0) {
    add({ kind: 'follows' })
    add({ kind: 'stuck', longestS: Math.max(2, up(longestStuck(recorded, everybody).s * 1.1, 1)) })
  }
  for (const factionId of new Set(recorded.agents.map((a) => a.factionId).filter((f) => f !== null))) {
    const keys = keysOf(recorded, trialSchema.parse({ whom: 'faction', factionId }))
    const gaps = [...keys].flatMap((key) => visitGaps(of, key).map((g) => g.s))
    if (gaps.length > 0) add({ kind: 'visits', whom: 'faction', factionId, withinS: up(Math.max(...gaps) * 1.1, 5) })
  }
  const windows = (kind: 'spot' | 'line', id: string, spans: SneakAnswer['starts'], wantedS: number) => {
    const windowS = spans.some((s) => s.to - s.from >= wantedS)
      ? wantedS
      : Math.floor(Math.max(0, ...spans.map((s) => s.to - s.from)))
    if (windowS <= 0) return
    const everyS = up(longestWait(spans, windowS, 0, of.seconds).s * 1.05, 5)
    add({ kind, windowS, everyS, ...(kind === 'spot' ? { spotId: id } : { lineId: id }) })
  }
  for (const [id, spot] of Object.entries(level.watchSpots)) windows('spot', id, of.spot(id).open, spot.wantedS)
  for (const [id, line] of Object.entries(level.sneakLines)) windows('line', id, of.line(id).starts, line.wantedS)
  const known = Object.values(level.trials).map(sayingOf)
  return list.filter((t) => !known.includes(sayingOf(t)))
}

/** What a trial says, without its name. */
const sayingOf = (trial: Trial) => JSON.stringify({ ...trial, name: '', note: '', off: false })

/** A trial as a sentence. */
export function trialWords(level: Level, trial: Trial): string {
  const nameIn = (things: Readonly<Record<string, { readonly name: string }>>, id: string | null, none: string) =>
    things[id ?? '']?.name ?? none
  const who = {
    everybody: 'everybody',
    spawner: `everyone sent by ${nameIn(level.spawners, trial.spawnerId, 'a spawner that is not chosen')}`,
    faction: `everyone of ${nameIn(level.factions, trial.factionId, 'a faction that is not chosen')}`,
    route: `everyone on ${nameIn(level.routes, trial.routeId, 'a route that is not chosen')}`,
  }[trial.whom]
  const nobody = who.replace(/^every(body|one)/, (_, w: string) => (w === 'body' ? 'nobody' : 'no one'))
  const from = trial.fromS > 0 ? ` from ${s0(trial.fromS)} on` : ''
  const line = nameIn(level.sneakLines, trial.lineId, 'A sneak line that is not chosen')
  const spot = nameIn(level.watchSpots, trial.spotId, 'A watch spot that is not chosen')
  const place = nameIn(level.zones, trial.zoneId, nameIn(level.markers, trial.markerId, 'a place that is not chosen'))
  const window = `has a window of ${s0(trial.windowS)} at least every ${s0(trial.everyS)}${from}`
  const words: Record<TrialKind, string> = {
    follows: `${who} follows what it is told`,
    visits: `${who} visits every stop within ${s0(trial.withinS)}`,
    stuck: `${nobody} is stuck longer than ${s0(trial.longestS)}`,
    spot: `${spot} ${window}`,
    line: `${line} ${window}`,
    away: `${nobody} comes within ${+trial.distanceM.toFixed(2)} m of ${place}${from}`,
    count: `of ${who} between ${trial.least} and ${trial.most} are there${from}`,
    sees: `${who} together sees all of ${nameIn(level.zones, trial.zoneId, 'a zone that is not chosen')} within ${s0(trial.withinS)}`,
    ends: `${who} is done within ${s0(trial.withinS)}`,
  }
  const text = words[trial.kind]
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`
}

const s0 = (s: number) => `${+s.toFixed(1)} s`
