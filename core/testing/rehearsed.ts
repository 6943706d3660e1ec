import { levelSchema, PRESETS, type Level, type LevelInput, type Profile } from '@tidytrail/core/level'
import { Run, STATES, FRAME_FIELDS, type AgentState, type Command } from '@tidytrail/core/rehearsal'
import { Survey } from '@tidytrail/core/survey'
import { sceneLevel } from './scenes'

/** An agent in a frame of a recording, as it is read from outside. Metres, radians, metres a second. */
export interface Row {
  readonly key: number
  readonly x: number
  readonly y: number
  readonly z: number
  readonly heading: number
  readonly speed: number
  readonly off: number
  readonly state: AgentState
  readonly from: number
  readonly to: number
}

/** A level surveyed and rehearsed for so long. */
export function rehearsed(level: Level, seconds: number, seed = 1, commands: readonly Command[] = []): Run {
  const survey = new Survey()
  survey.update(level)
  const run = new Run(level, seed, survey, commands)
  run.runTo(seconds)
  return run
}

/** The same over a survey that knows the level already; for as long as the level says where no length is given. */
export function rehearsedOver(level: Level, survey: Survey, seconds = level.settings.rehearseS): Run {
  const run = new Run(level, level.settings.seed, survey)
  run.runTo(seconds)
  return run
}

/** What a run comes to at its end, each time it has been put back to a moment, seconds, and gone on with. */
export function goneBackIn(run: Run, moments: readonly number[]) {
  const { t: end } = run
  return moments.map((t) => {
    run.backTo(t)
    run.runTo(end)
    return { hash: run.hash, verdicts: run.verdicts() }
  })
}

/** All frames recorded so far, each the rows of who is there. */
export function framesOf({ engine: { recording } }: Run): Row[][] {
  return Array.from({ length: recording.frameCount }, (_, k) => rowsOf(recording.frame(k)))
}

export const rowsOf = (frame: Int32Array): Row[] =>
  Array.from({ length: frame.length / FRAME_FIELDS }, (_, n) => {
    const f = frame.subarray(n * FRAME_FIELDS, (n + 1) * FRAME_FIELDS)
    return {
      key: f[0],
      x: f[1] / 1000,
      y: f[2] / 1000,
      z: f[3] / 1000,
      heading: f[4] / 1000,
      speed: f[5] / 1000,
      off: f[6] / 1000,
      state: STATES[f[7]],
      from: f[8],
      to: f[9],
    }
  })

/** The stops an agent reached, in order. */
export const stopsMade = ({ engine: { events } }: Run, key = 1): number[] =>
  events.list.filter((e) => e.key === key && e.kind === 'reached').map((e) => e.a)

/** A level with one traveller of a preset along one route, and what else is wanted. */
export function travelLevel(
  profile: Profile,
  stops: readonly (readonly [number, number, number?])[],
  {
    route = {},
    stop = {},
    spawner = {},
    sideM = 120,
    more = {},
    solids = {},
  }: {
    route?: object
    stop?: Record<number, object>
    spawner?: object
    sideM?: number
    more?: Partial<LevelInput>
    solids?: Parameters<typeof sceneLevel>[2]
  } = {},
): Level {
  const order = stops.map((_, k) => `st_${k}`)
  return levelSchema.parse({
    ...sceneLevel(sideM, sideM, solids, more),
    profiles: { pf_a: profile },
    waypoints: Object.fromEntries(stops.map(([x, y, z = 0], k) => [`wp_${k}`, { at: [x, y, z] }])),
    routes: {
      rt_a: {
        name: 'Way',
        stops: Object.fromEntries(order.map((id, k) => [id, { waypointId: `wp_${k}`, ...stop[k] }])),
        order,
        ...route,
      },
    },
    briefs: { br_a: { name: 'B', steps: { bs_a: { kind: 'follow-route', routeId: 'rt_a' } }, order: ['bs_a'] } },
    spawners: {
      sp_a: {
        name: 'Start',
        at: [stops[0][0], stops[0][1], stops[0][2] ?? 0],
        profileId: 'pf_a',
        briefId: 'br_a',
        ...spawner,
      },
    },
  })
}

/** The preset of a name. */
export const preset = (name: string): Profile => PRESETS.find((p) => p.name === name)!
