import type { Level } from '@tidytrail/core/level'
import {
  FIELD,
  FRAME_FIELDS,
  FRAMES_PER_SECOND,
  STATES,
  type AgentEvent,
  type AgentState,
  type Recorded,
  type RecordedAgent,
} from '@tidytrail/core/rehearsal'

/** Where somebody is at a time, and what it does; undefined while it is not there. Metres, radians, seconds. */
export interface Pose {
  readonly x: number
  readonly y: number
  readonly z?: number
  readonly heading: number
  readonly speed?: number
  readonly state?: AgentState
  readonly from?: number
  readonly to?: number
  readonly off?: number
}

export interface Actor extends Partial<RecordedAgent> {
  readonly profileId: string
  readonly route?: string
  readonly pose: (t: number) => Pose | undefined
}

/** A recording that is not of a rehearsal: everybody is where they are said to be. */
export function madeRecording(
  level: Level,
  actors: readonly Actor[],
  seconds: number,
  events: readonly AgentEvent[] = [],
): Recorded {
  const routes = [...new Set(actors.flatMap((a) => a.route ?? []))]
  const profiles = [...new Set(actors.map((a) => a.profileId))]
  const frames = Array.from({ length: Math.round(seconds * FRAMES_PER_SECOND) + 1 }, (_, k) => {
    const rows = actors.flatMap((actor, n) => {
      const pose = actor.pose(k / FRAMES_PER_SECOND)
      if (!pose) return []
      const row = new Array<number>(FRAME_FIELDS).fill(0)
      row[FIELD.key] = actor.key ?? n + 1
      row[FIELD.x] = Math.round(pose.x * 1000)
      row[FIELD.y] = Math.round(pose.y * 1000)
      row[FIELD.z] = Math.round((pose.z ?? 0) * 1000)
      row[FIELD.heading] = Math.round(pose.heading * 1000)
      row[FIELD.speed] = Math.round((pose.speed ?? 0) * 1000)
      row[FIELD.off] = Math.round((pose.off ?? 0) * 1000)
      row[FIELD.state] = STATES.indexOf(pose.state ?? 'walking')
      row[FIELD.from] = pose.from ?? -1
      row[FIELD.to] = pose.to ?? -1
      row[FIELD.route] = actor.route ? routes.indexOf(actor.route) : -1
      row[FIELD.body] = profiles.indexOf(actor.profileId)
      return [row]
    })
    return Int32Array.from(rows.flat())
  })
  return {
    level,
    seed: 1,
    stepS: 1 / level.settings.stepsPerSecond,
    frameCount: frames.length,
    frame: (k) => frames[k],
    agents: actors.map((actor, n) => ({
      key: n + 1,
      id: `sp_made#${n + 1}`,
      name: `Actor ${n + 1}`,
      spawnerId: 'sp_made',
      factionId: null,
      briefId: null,
      standIn: false,
      appearedS: 0,
      leftS: undefined,
      ...actor,
    })),
    events,
    routes,
    posts: [],
    profiles,
  }
}
