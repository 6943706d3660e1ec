import type { AgentEvent, Chunk, Planned, Script, StrayedLeg, Verdict } from '@tidytrail/core/rehearsal'

/** Who takes part in a rehearsal. */
export interface AgentInfo {
  readonly key: number
  readonly id: string
  readonly name: string
  readonly spawnerId: string
  readonly routeId: string | null
  readonly profileId: string
  readonly profileName: string
  readonly factionId: string | null
  readonly radiusM: number
  readonly standIn: boolean
  readonly appearedS: number
  readonly briefId: string | null
}

/** The verdicts on all as they stood at a time, seconds. */
export interface Judged {
  readonly t: number
  readonly verdicts: readonly Verdict[]
}

/** What has come of a run since it was last told of. Arrays of bytes are transferred. */
export interface RunNews {
  readonly run: number
  /** Frames from here on are new, or other than they were. */
  readonly from: number
  readonly chunks: readonly Chunk[]
  /** Seconds rehearsed so far. */
  readonly t: number
  /** Those who have appeared, and events, from these numbers on; what lay behind is to be forgotten. */
  readonly agents: { readonly from: number; readonly list: readonly AgentInfo[] }
  readonly events: { readonly from: number; readonly list: readonly AgentEvent[] }
  /** The verdicts as they stood at moments of the run, from one on; those behind it are to be forgotten. */
  readonly verdicts: { readonly from: number; readonly list: readonly Judged[] }
  /** Moments at which something was done to the run, seconds. */
  readonly marks: readonly { readonly t: number; readonly what: 'edit' | 'steer' | 'noise' | 'let-go' }[]
  /** The routes of the run by the numbers frames and events name them by. */
  readonly routes: readonly string[]
  /** And the posts, and the profiles. */
  readonly posts: readonly string[]
  readonly profiles: readonly string[]
  /** Only when it has come to its end. */
  readonly hash: string | undefined
}

export interface RunListener {
  news(news: RunNews): void
  /** A rehearsal could not be brought to an end. */
  runFailed(run: number, why: string): void
}

/** What can be asked of a rehearsal. */
export interface Rehearser {
  /** Begins a rehearsal of the level as it is from the first second; one under way is given up. @param plan what the stand-in is steered by */
  begin(run: number, seed: number, seconds: number, plan?: Planned): void
  /** The moment somebody is looking at, seconds: what is done to the run is done then. */
  lookAt(t: number): void
  /** Goes on from a moment with the level as it now is; what was recorded after it is forgotten. */
  goOnFrom(t: number): void
  /** Steers a stand-in: a direction of length one (or none) and a speed; it is let go with a speed below 0. */
  steer(agent: string, x: number, y: number, mps: number): void
  makeNoise(agent: string): void
  giveUp(): void
  /** What makes the run repeatable, to go with the level it was begun with. */
  script(): Script | undefined
  /** Where everybody went up to a time, seconds. */
  heat(t: number): Promise<HeatMap | undefined>
  /** How far from their legs agents strayed up to a time, seconds. */
  straying(t: number): StrayedLeg[]
}

/** Seconds spent in each square of a level, row by row from its south-west corner. Metres. */
export interface HeatMap {
  readonly minX: number
  readonly minY: number
  readonly squareM: number
  readonly columns: number
  readonly rows: number
  readonly seconds: Float32Array<ArrayBuffer>
}
