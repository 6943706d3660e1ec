import type { Point3 } from '@tidytrail/core/geometry'
import { areaOf, placeNamed, type Area, type BriefStep, type Level, type Route, type Zone } from '@tidytrail/core/level'
import type { Engine } from '../engine'
import type { Cause } from '../events'
import type { ProfileRow, Registers } from '../scenario'
import type { Walks } from './stroll'

/** A post made ready: its number in the register, and what is known of it. */
export interface PostRow {
  readonly number: number
  readonly at: Point3
  readonly facingRad: number
  readonly worth: number
}

/** A step of a brief made ready. */
export interface StepRow {
  readonly kind: BriefStep['kind']
  /** The route to be followed, and its number; −1 and undefined where there is none. */
  readonly route: Route | undefined
  readonly routeId: string | null
  readonly routeNumber: number
  readonly stops: readonly Point3[]
  /** Where a route is begun. */
  readonly from: 'start' | 'stop' | 'line'
  readonly gaitMps: number
  /** A gait is asked for that the profile lacks. */
  readonly lacksGait: boolean
  /** For how long, seconds; 0 for without end where it may be. */
  readonly forS: number
  /** A place, and how one faces there where it is said. */
  readonly place: Point3 | undefined
  readonly facingRad: number | undefined
  /** How often it is done, 0 for without end. */
  readonly times: number
  /** The ground of a zone, how long is stood at each place in it, and after how long a place is given up. */
  readonly area: Area | undefined
  readonly pause: { readonly minS: number; readonly maxS: number }
  readonly limitS: number
  /** The posts of a zone, those of most worth first, and after how long they change hands; 0 for never. */
  readonly posts: readonly PostRow[]
  readonly turnS: number
  /** The number of a spawner; −1 for none. */
  readonly spawner: number
  readonly nearM: number
  readonly farM: number
  readonly radiusM: number
  readonly loseS: number
  /** The number of a signal; −1 for none. And the passage to be used. */
  readonly signal: number
  readonly passageId: string | null
  /** What comes when it cannot be done. */
  readonly failed: 'next' | 'again' | 'another' | 'give-up'
  /** What it is one of, by weight; none where it is only itself. */
  readonly options: readonly StepRow[]
  readonly weights: readonly number[]
  /** Is it drawn anew each time, not once for each agent? */
  readonly anew: boolean
  /** The lanes it walks about on. */
  readonly walks: Walks | undefined
}

/** How it stands with a step: over and done, begun again with the whole brief, left with the level, or failed by a cause. */
export type StepEnd = 'running' | 'done' | 'again' | 'leaves' | Cause

/** What a step is compiled for. */
export interface StepContext {
  readonly level: Level
  readonly profile: ProfileRow
  readonly registers: Registers
  /** The zone of the squad, if it has one. */
  readonly zoneId: string | null
}

/** How a step of a brief is carried out. */
export interface StepRun<K extends BriefStep['kind'] = BriefStep['kind']> {
  readonly kind: K
  compile(context: StepContext, step: Extract<BriefStep, { kind: K }>): StepRow
  begin(engine: Engine, n: number, row: StepRow): StepEnd
  update(engine: Engine, n: number, row: StepRow): StepEnd
  /** Takes it up again after it was interrupted; without, it is begun anew with the time it has left. */
  resume?(engine: Engine, n: number, row: StepRow): StepEnd
  /** Finds another way when it has got nowhere for a while; without, the same goal is made for by any way over the reach. */
  anew?(engine: Engine, n: number, row: StepRow): StepEnd
}

const NO_PAUSE = { minS: 0, maxS: 0 } as const

export const plainRow = (step: Pick<BriefStep, 'kind' | 'failed'>, gaitMps: number): StepRow => ({
  kind: step.kind,
  route: undefined,
  routeId: null,
  routeNumber: -1,
  stops: [],
  from: 'start',
  gaitMps,
  lacksGait: false,
  forS: 0,
  place: undefined,
  facingRad: undefined,
  times: 0,
  area: undefined,
  pause: NO_PAUSE,
  limitS: 0,
  posts: [],
  turnS: 0,
  spawner: -1,
  nearM: 0,
  farM: 0,
  radiusM: 0,
  loseS: 0,
  signal: -1,
  passageId: null,
  failed: step.failed,
  options: [],
  weights: [],
  anew: false,
  walks: undefined,
})

/** A plain row of a step that has a gait. */
export const gaitedRow = (
  step: Pick<BriefStep, 'kind' | 'failed'> & { readonly gait: string | null },
  profile: ProfileRow,
): StepRow => ({
  ...plainRow(step, gaitOf(profile, step.gait)),
  lacksGait: step.gait !== null && profile.profile.gaits[step.gait] === undefined,
})

/** A row that is about a route of a level. */
export function onRoute(row: StepRow, level: Level, routeId: string, number: number): StepRow {
  const route = level.routes[routeId]
  const stops = route.order.map((s) => level.waypoints[route.stops[s].waypointId].at)
  return { ...row, route, routeId, routeNumber: number, stops }
}

/** The speed of a gait; of the usual one where the profile lacks it. */
export const gaitOf = ({ profile, gaitMps }: ProfileRow, gait: string | null): number =>
  (gait === null ? undefined : profile.gaits[gait]) ?? gaitMps

const areas = new WeakMap<Zone, { routes: unknown; waypoints: unknown; area: Area | undefined }>()

/** The ground of a zone of a level; the same object as long as it is the same. */
export function areaFor(level: Level, zoneId: string | null): Area | undefined {
  const zone = level.zones[zoneId ?? '']
  if (!zone) return undefined
  const known = areas.get(zone)
  const { routes, waypoints } = level
  if (known && (zone.shape !== 'band' || (known.routes === routes && known.waypoints === waypoints))) return known.area
  const area = areaOf(level, zone)
  areas.set(zone, { routes, waypoints, area })
  return area
}

/** The place a step names: a marker, a post with its facing, or a zone. */
export function placeFor({ level, zoneId }: StepContext, step: Parameters<typeof placeNamed>[0]): Partial<StepRow> {
  const { key, id } = placeNamed(step)
  if (key === 'markerId') return { place: level.markers[id ?? '']?.at }
  if (key === 'zoneId') return { area: areaFor(level, id ?? zoneId) }
  const post = level.posts[id ?? '']
  return post ? { place: post.at, facingRad: post.facingRad } : {}
}

/** A row that is one of several, by weight: itself first. */
export function withOptions(
  row: StepRow,
  step: { readonly weight: number; readonly draws: string; readonly others: readonly { readonly weight: number }[] },
  others: readonly StepRow[],
): StepRow {
  if (others.length === 0) return row
  return {
    ...row,
    options: [row, ...others],
    weights: [step.weight, ...step.others.map((o) => o.weight)],
    anew: step.draws === 'time',
  }
}
