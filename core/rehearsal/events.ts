/** What can happen to an agent. An event is its step, whom, which of these, and up to three numbers; words come later. */
export const EVENTS = [
  'appeared',
  'left',
  'reached',
  'missed',
  'crossed',
  'blocked',
  'finished',
  'stuck',
  'free',
  'planned-anew',
  'stood-aside',
  'gave-up',
  'orbits',
  'strayed',
  'gait-missing',
  'carried-over',
  'saw',
  'lost',
  'heard',
  'noise',
  'steered',
  'let-go',
  'turned',
  'ran-into',
  'began',
  'began-again',
  'interrupted',
  'took-up',
  'goes-for',
  'took-post',
  'gave-post',
  'boarded',
  'got-out',
  'signalled',
  'uses',
  'drew',
  'changed-lanes',
  'halted',
] as const
export type EventKind = (typeof EVENTS)[number]

export interface AgentEvent {
  readonly step: number
  readonly key: number
  readonly kind: EventKind
  readonly a: number
  readonly b: number
  readonly c: number
  /** The number of the route its agent was on; −1 for none. */
  readonly route: number
}

/** What held an agent back at a step, or made it leave its line. `who` beside it tells by which other agent. */
export const LIMITS = [
  'nothing',
  'corner',
  'arrival',
  'slope',
  'cover',
  'neighbour',
  'gap',
  'grip',
  'turning',
  'queue',
  'setting-out',
  'signal',
  'give-way',
  'kept-clear',
  'lane-end',
  'crossing',
  'traffic',
  'halt',
  'narrow',
] as const
export type Limit = (typeof LIMITS)[number]
export const LIMIT = Object.fromEntries(LIMITS.map((l, k) => [l, k])) as Record<Limit, number>

/** Limits that are waiting for one's turn: who is held by one is not stuck. */
export const WAITS: ReadonlySet<number> = new Set([LIMIT.queue, LIMIT.signal, LIMIT['give-way'], LIMIT['kept-clear'], LIMIT['lane-end'], LIMIT.crossing, LIMIT.traffic, LIMIT.halt, LIMIT.narrow]) // prettier-ignore

/** Why somebody changed lanes. */
export const CHANGE = { gain: 0, way: 1 } as const

/** Why a leg cannot be travelled, or what it is that failed. */
export const CAUSES = [
  'start',
  'end',
  'apart',
  'no-route',
  'few-stops',
  'gone',
  'stuck',
  'no-place',
  'no-zone',
  'no-floor',
  'no-posts',
  'no-vehicle',
  'nobody',
  'target-gone',
  'no-signal',
  'no-passage',
  'taken',
  'no-lanes',
] as const
export type Cause = (typeof CAUSES)[number]

/** The events of a run in order. */
export class EventLog {
  readonly list: AgentEvent[] = []
  /** More are not kept: only that there were more. */
  static readonly MOST = 2_000_000

  add(step: number, key: number, kind: EventKind, a = 0, b = 0, c = 0, route = -1): void {
    if (this.list.length < EventLog.MOST) this.list.push({ step, key, kind, a, b, c, route })
  }

  /** Forgets all but the first so many. */
  cutTo(count: number): void {
    this.list.length = Math.min(this.list.length, count)
  }
}
