import type { Level } from '@tidytrail/core/level'
import type { AgentEvent, Verdict } from '@tidytrail/core/rehearsal'

/** Who takes part in a rehearsal. */
export interface AgentInfo {
  readonly id: string
  readonly name: string
  readonly spawnerId: string
  readonly routeId: string | null
  readonly profileName: string
  readonly factionId: string | null
  readonly radiusM: number
}

/** Frames of a rehearsal under way. The arrays are transferred. */
export interface FrameBatch {
  readonly run: number
  readonly first: number
  readonly frames: Int32Array[]
  /** Seconds rehearsed so far. */
  readonly t: number
}

export interface RehearsalEnd {
  readonly run: number
  readonly seconds: number
  readonly seed: number
  readonly hash: string
  readonly verdicts: readonly Verdict[]
  readonly events: Record<string, readonly AgentEvent[]>
  readonly tookMs: number
}

export interface RehearsalListener {
  agents(run: number, agents: readonly AgentInfo[]): void
  frames(batch: FrameBatch): void
  end(end: RehearsalEnd): void
  /** A rehearsal could not be brought to an end. */
  failed(run: number, why: string): void
}

/** The rehearser as the main thread sees it. */
export interface Rehearser {
  /** Takes in an imported thing the level refers to. */
  give(hash: string, bytes: Uint8Array): void
  start(listener: RehearsalListener): void
  /** Begins a rehearsal from the first second; one under way is given up. */
  run(run: number, level: Level, seed: number, seconds: number): void
  stop(): void
}
