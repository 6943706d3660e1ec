import type { Point3 } from '@tidytrail/core/geometry'
import type { Level, Profile, Route } from '@tidytrail/core/level'
import type { LegPlanner } from '@tidytrail/core/network'
import { StraightWalker, type PassageUse, type Spot } from '@tidytrail/core/reach'
import type { Neighbours } from './neighbours'

/** What an agent is doing. */
export const STATES = ['waiting', 'walking', 'pausing', 'done', 'blocked', 'idle', 'crossing'] as const
export type AgentState = (typeof STATES)[number]

/** Something that happened to an agent. */
/** What an event is; its text is for people alone. */
export type AgentEventKind = 'appeared' | 'reached' | 'crossed' | 'blocked' | 'finished'

export interface AgentEvent {
  readonly t: number
  readonly kind: AgentEventKind
  readonly text: string
}

/** Who an agent is, and all about it that changes only now and then. */
export interface Agent {
  readonly id: string
  readonly name: string
  readonly spawnerId: string
  readonly profileId: string
  readonly profile: Profile
  readonly planner: LegPlanner
  readonly walker: StraightWalker
  /** When it is to appear, and once it has, when it did, seconds. */
  spawnAtS: number
  readonly pauses: () => number
  /** The brief, worked through in order. */
  readonly steps: readonly AgentStep[]
  stepIndex: number
  state: AgentState
  spot: Spot | undefined
  /** Corners of the way being walked, and which comes next. */
  path: readonly Point3[]
  corner: number
  /** The passages on it, and the one being gone through: since when, from where. */
  uses: readonly PassageUse[]
  crossing: { readonly use: PassageUse; readonly sinceS: number; readonly from: Point3 } | undefined
  /** Stop the way begins at, −1 when it leads from elsewhere to the first; and the stop it leads to. */
  fromStop: number
  toStop: number
  direction: 1 | -1
  arrivalM: number
  /** End of the pause, seconds. */
  pauseUntilS: number
  /** Speed asked for, metres a second. */
  gaitMps: number
  readonly made: MadeStop[]
  readonly reasons: string[]
  readonly events: AgentEvent[]
}

export interface MadeStop {
  readonly stop: number
  readonly t: number
  /** Walking time a traveller at gait speed needs from the stop before, seconds. */
  readonly expectedS: number
  readonly tookS: number
}

export type AgentStep =
  | {
      readonly kind: 'follow-route'
      readonly routeId: string
      readonly route: Route
      readonly stops: readonly Point3[]
      readonly gaitMps: number
    }
  | { readonly kind: 'pause'; readonly forS: number }

/** Everybody in a rehearsal: columns for what changes at every step. Metres, seconds. */
export interface World {
  readonly level: Level
  readonly seed: number
  readonly stepS: number
  readonly agents: readonly Agent[]
  /** Seconds since the beginning. */
  t: number
  readonly x: Float64Array
  readonly y: Float64Array
  readonly z: Float64Array
  readonly headX: Float64Array
  readonly headY: Float64Array
  readonly speed: Float64Array
  /** Speed and direction the agent wants this step. */
  readonly wantX: Float64Array
  readonly wantY: Float64Array
  readonly wantSpeed: Float64Array
  readonly offLine: Float64Array
  readonly stuckS: Float64Array
  readonly longestStuckS: Float64Array
  readonly legSinceS: Float64Array
  /** Who is near whom, as it was when the step began. */
  readonly near: Neighbours
}

/** Events of one agent kept at most. */
const MOST_EVENTS = 2000

export function logEvent(world: World, agent: Agent, kind: AgentEventKind, text: string): void {
  if (agent.events.length < MOST_EVENTS) agent.events.push({ t: world.t, kind, text })
}
