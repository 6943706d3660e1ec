import type { Level } from '@tidytrail/core/level'
import type { AgentEvent } from './events'
import type { Run } from './run'

/** Somebody who is or was in a rehearsal. */
export interface RecordedAgent {
  readonly key: number
  /** Spawner and number in it: the same whenever the run is repeated. */
  readonly id: string
  readonly name: string
  readonly spawnerId: string
  readonly profileId: string
  readonly factionId: string | null
  readonly briefId: string | null
  readonly standIn: boolean
  readonly appearedS: number
  readonly leftS: number | undefined
}

/**
 * A rehearsal as it was recorded: all that can be found out about it afterwards is found out from this, whether it runs
 * still, was kept long ago, or was read from a file. Frames are those of `FIELDS`; times are seconds.
 */
export interface Recorded {
  /** The level as it was at the end of the recording. */
  readonly level: Level
  readonly seed: number
  readonly stepS: number
  readonly frameCount: number
  frame(k: number): Int32Array
  readonly agents: readonly RecordedAgent[]
  readonly events: readonly AgentEvent[]
  /** Routes, posts and profiles by the numbers frames and events name them by. */
  readonly routes: readonly string[]
  readonly posts: readonly string[]
  readonly profiles: readonly string[]
}

/** What a run has recorded so far. */
export function recordedOf({ engine, level, seed }: Run): Recorded {
  const { recording, scenario, registers, members, events } = engine
  return {
    level,
    seed,
    stepS: scenario.stepS,
    frameCount: recording.frameCount,
    frame: (k) => recording.frame(k),
    agents: members.map((m) => {
      const row = scenario.spawners[registers.spawners.of(m.spawnerId)]
      const told = row?.variants[m.variant] ?? row?.variants[0]
      return {
        key: m.key,
        id: m.id,
        name: m.name,
        spawnerId: m.spawnerId,
        profileId: m.profileId,
        factionId: told?.faction ?? null,
        briefId: told?.briefId ?? null,
        standIn: row?.standIn ?? false,
        appearedS: m.appearedS,
        leftS: m.leftS,
      }
    }),
    events: events.list,
    routes: registers.routes.ids,
    posts: registers.posts.ids,
    profiles: registers.profiles.ids,
  }
}
