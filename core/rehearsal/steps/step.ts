import type { Point3 } from '@tidytrail/core/geometry'
import type { BriefStep, Level, Route } from '@tidytrail/core/level'
import type { Engine } from '../engine'
import type { Cause } from '../events'
import type { ProfileRow, Registers } from '../scenario'

/** A step of a brief made ready. */
export interface StepRow {
  readonly kind: BriefStep['kind']
  /** The route to be followed, and its number; −1 and undefined where there is none. */
  readonly route: Route | undefined
  readonly routeId: string | null
  readonly routeNumber: number
  readonly stops: readonly Point3[]
  readonly gaitMps: number
  /** A gait is asked for that the profile lacks. */
  readonly lacksGait: boolean
  /** For how long, seconds; 0 for without end where it may be. */
  readonly forS: number
  readonly place: Point3 | undefined
  /** How often it is done, 0 for without end. */
  readonly times: number
  /** The outline of a zone, how long is stood at each place in it, and after how long a place is given up. */
  readonly ring: readonly (readonly [number, number])[] | undefined
  readonly pause: { readonly minS: number; readonly maxS: number }
  readonly limitS: number
}

/** How it stands with a step: over and done, begun again with the whole brief, left with the level, or failed by a cause. */
export type StepEnd = 'running' | 'done' | 'again' | 'leaves' | Cause

/** How a step of a brief is carried out. */
export interface StepRun<K extends BriefStep['kind'] = BriefStep['kind']> {
  readonly kind: K
  compile(level: Level, step: Extract<BriefStep, { kind: K }>, profile: ProfileRow, registers: Registers): StepRow
  begin(engine: Engine, n: number, row: StepRow): StepEnd
  update(engine: Engine, n: number, row: StepRow): StepEnd
}

const NO_PAUSE = { minS: 0, maxS: 0 } as const

export const plainRow = (kind: BriefStep['kind'], gaitMps: number): StepRow => ({
  kind,
  route: undefined,
  routeId: null,
  routeNumber: -1,
  stops: [],
  gaitMps,
  lacksGait: false,
  forS: 0,
  place: undefined,
  times: 0,
  ring: undefined,
  pause: NO_PAUSE,
  limitS: 0,
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
