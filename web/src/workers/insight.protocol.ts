import type {
  Company,
  Compared,
  Coverage,
  Parting,
  RunFigures,
  SneakAnswer,
  SpotWindows,
  StringLine,
  TrafficFigures,
  TrialResult,
  WidenProgress,
  Wish,
} from '@tidytrail/core/insight'
import type { Point3 } from '@tidytrail/core/geometry'
import type { Trial } from '@tidytrail/core/level'
import type { Chunk, Recorded, StrayedLeg, Verdict } from '@tidytrail/core/rehearsal'
import type { HeatMap } from './rehearsal.protocol'

/** A recording as it is handed over: its frames packed. */
export interface RunCopy extends Omit<Recorded, 'frame' | 'frameCount'> {
  readonly chunks: readonly Chunk[]
  readonly verdicts: readonly Verdict[]
}

/** What is asked for about a recording, and is to be kept true. */
export interface Wanted {
  readonly spots: readonly string[]
  readonly lines: readonly string[]
  readonly trials: boolean
  readonly traffic: boolean
}

export interface Found {
  readonly spots: Readonly<Record<string, SpotWindows>>
  readonly lines: Readonly<Record<string, SneakAnswer>>
  readonly trials: readonly TrialResult[]
  readonly traffic: TrafficFigures | undefined
}

/** Two runs side by side. */
export interface Comparison {
  readonly parting: Parting
  readonly figures: readonly Compared[]
}

/** What can be asked of who finds things out about a rehearsal. */
export interface Insighter {
  give(hash: string, bytes: Uint8Array): void
  /** Hands a recording over; all that is asked is about the last one. */
  load(run: RunCopy): void
  find(wanted: Wanted): Promise<Found>
  coverage(factionIds: readonly string[], zoneId: string | null): Coverage | undefined
  company(factionIds: readonly string[]): Company | undefined
  /**
   * @param ways those of the legs of the route, in order, of which one without a line is taken to be straight; where the
   * level rehearsed is not the one they are known of, none: they are worked out
   */
  stringLine(routeId: string, ways: readonly (readonly Point3[])[] | undefined): StringLine | undefined
  suggestTrials(): Trial[]
  /** Where everybody went up to a time, seconds. */
  heat(t: number): Promise<HeatMap | undefined>
  /** How far from their legs agents strayed up to a time, seconds. */
  straying(t: number): StrayedLeg[]
  /** Looks for what would widen a window; tells how far it has come. @returns undefined when it was ended before */
  widen(wish: Wish, tell: (progress: WidenProgress) => void): Promise<WidenProgress | undefined>
  /** Rehearses the level with these seeds, and tells of each when it is done. @returns false when it was ended before */
  seeds(seeds: readonly number[], seconds: number, tell: (figures: RunFigures) => void): Promise<boolean>
  /** Places, headings and speeds of everybody at every frame, as CSV. */
  positions(): string | undefined
  /** How another run and the one that was handed over differ. @param chance figures of the same level with other seeds */
  compare(other: RunCopy, otherHash: string, hash: string, chance: readonly RunFigures[]): Comparison | undefined
  /** Ends what takes long. */
  cancel(): void
}
