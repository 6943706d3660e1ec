import { briefIdOf, stepsOf, type BriefStep } from '@tidytrail/core/level'
import {
  FIELD,
  FRAME_FIELDS,
  FRAMES_PER_SECOND,
  STATES,
  type AgentState,
  type Recorded,
} from '@tidytrail/core/rehearsal'

/** Something that runs down: what it is of, and what is left of it, seconds. */
export interface Timer {
  readonly of: 'pause' | 'step' | 'waits' | 'memory'
  readonly leftS: number
}

/** Why somebody does what it does at a moment. Metres, seconds. */
export interface Why {
  readonly key: number
  readonly state: AgentState
  readonly briefId: string | null
  /** The step it is at; null before the first one, and when the brief has changed since. */
  readonly stepId: string | null
  /** The standing sentence it is in, where it is in one; and the step that one interrupted, when that was. */
  readonly whenId: string | null
  readonly interrupted: { readonly stepId: string | null; readonly atS: number; readonly by: number } | undefined
  /** Which of several the step is; 0 for itself. */
  readonly choice: number
  readonly stepS: number
  /** Where its way leads, metres; undefined while it has none. */
  readonly goal: readonly [number, number] | undefined
  readonly timers: readonly Timer[]
  /** Whom it has in mind, and where and how long ago it perceived them last. */
  readonly minds: { readonly key: number; readonly at: readonly [number, number]; readonly agoS: number } | undefined
  readonly sees: readonly number[]
  readonly hears: readonly number[]
  readonly wantMps: number
  readonly mps: number
  readonly limit: number
  readonly by: number
}

/** How long it has been heard of that somebody counts as being heard, seconds. */
const HEARD_S = 1

/** Why an agent does what it does at a time, by what was recorded; undefined while it is not there. */
export function whyAt(recorded: Recorded, key: number, t: number): Why | undefined {
  const k = Math.max(0, Math.min(recorded.frameCount - 1, Math.round(t * FRAMES_PER_SECOND)))
  const frame = recorded.frameCount > 0 ? recorded.frame(k) : new Int32Array(0)
  const r = rowOf(frame, key)
  const agent = recorded.agents.find((a) => a.key === key)
  if (r < 0 || !agent) return undefined
  const of = (f: keyof typeof FIELD) => frame[r + FIELD[f]]
  const brief =
    recorded.level.briefs[
      agent.briefId ?? briefIdOf(recorded.level, recorded.level.spawners[agent.spawnerId] ?? NOBODY) ?? ''
    ]
  const within = of('within')
  const when = within > 0 ? brief?.whens[within - 1] : undefined
  const stepAt = (n: number, whenId: string | null) => (brief ? (stepsOf(brief, whenId)[n] ?? null) : null)
  const stepId = within > 0 && !when ? null : stepAt(of('step'), when?.id ?? null)
  const state = STATES[of('state')]
  const now = k / FRAMES_PER_SECOND
  const target = of('target')
  return {
    key,
    state,
    briefId: agent.briefId,
    stepId,
    whenId: when?.id ?? null,
    interrupted: within > 0 ? interruptedBy(recorded, key, now, (n) => stepAt(n, null)) : undefined,
    choice: of('choice'),
    stepS: now - of('since') / 1000,
    goal: of('goalX') !== 0 || of('goalY') !== 0 ? [of('goalX') / 1000, of('goalY') / 1000] : undefined,
    timers: timersOf(of, now, state, brief?.steps[stepId ?? '']),
    minds:
      target > 0
        ? { key: target, at: [of('seenX') / 1000, of('seenY') / 1000], agoS: Math.max(0, now - of('seenAt') / 1000) }
        : undefined,
    ...perceivedAt(recorded, key, now),
    wantMps: of('want') / 1000,
    mps: of('speed') / 1000,
    limit: of('limit'),
    by: of('by'),
  }
}

const NOBODY = { briefId: null, squadId: null }

export function rowOf(frame: Int32Array, key: number): number {
  for (let r = 0; r < frame.length; r += FRAME_FIELDS) if (frame[r] === key) return r
  return -1
}

function timersOf(
  of: (f: keyof typeof FIELD) => number,
  now: number,
  state: AgentState,
  step: BriefStep | undefined,
): Timer[] {
  const timers: Timer[] = []
  const until = of('until')
  if (until > 0 && until / 1000 >= now) {
    timers.push({ of: state === 'pausing' ? 'pause' : 'waits', leftS: until / 1000 - now })
  }
  const told = step as { forS?: number | null; loseS?: number } | undefined
  const forS = told?.forS ?? 0
  const leftS = of('since') / 1000 + forS - now
  if (forS > 0 && leftS >= 0) timers.push({ of: 'step', leftS })
  if (told?.loseS && of('target') > 0) {
    const left = told.loseS - (now - of('seenAt') / 1000)
    if (left >= 0) timers.push({ of: 'memory', leftS: left })
  }
  return timers
}

/** What a standing sentence interrupted that somebody is in at a time, seconds. */
function interruptedBy(
  recorded: Recorded,
  key: number,
  now: number,
  stepAt: (n: number) => string | null,
): Why['interrupted'] {
  const step = now / recorded.stepS + 0.5
  let event = undefined as (typeof recorded.events)[number] | undefined
  for (const e of recorded.events) {
    if (e.step > step) break
    if (e.key !== key) continue
    // The first of several within each other is the one that broke its brief off.
    if (e.kind === 'interrupted') event ??= e
    else if (e.kind === 'took-up') event = undefined
  }
  if (!event) return undefined
  const atS = event.step * recorded.stepS
  const before = recorded.frame(Math.max(0, Math.ceil(atS * FRAMES_PER_SECOND - 1e-6) - 1))
  const r = rowOf(before, key)
  return { stepId: r < 0 ? null : stepAt(before[r + FIELD.step]), atS, by: event.b }
}

/** Who sees whom at a time, seconds: keys. */
export function sightsAt(
  { events, stepS }: Pick<Recorded, 'events' | 'stepS'>,
  t: number,
): { from: number; to: number }[] {
  const pairs = new Map<string, { from: number; to: number }>()
  for (const e of events) {
    if (e.step * stepS > t + 1e-6) break
    if (e.kind === 'saw') pairs.set(`${e.key} ${e.a}`, { from: e.key, to: e.a })
    else if (e.kind === 'lost') pairs.delete(`${e.key} ${e.a}`)
  }
  return [...pairs.values()]
}

/** Whom somebody sees at a time, and hears or heard just now. */
function perceivedAt(recorded: Recorded, key: number, now: number): { sees: number[]; hears: number[] } {
  const heard = recorded.events.filter((e) => {
    const s = e.step * recorded.stepS
    return e.key === key && e.kind === 'heard' && s <= now + 1e-6 && s >= now - HEARD_S
  })
  const sees = sightsAt(recorded, now).filter((pair) => pair.from === key)
  return { sees: sees.map((pair) => pair.to), hears: [...new Set(heard.map((e) => e.a))] }
}
