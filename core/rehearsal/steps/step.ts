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
  readonly forS: number
  readonly place: Point3 | undefined
}

export type StepEnd = 'running' | 'done' | Cause

/** How a step of a brief is carried out. */
export interface StepRun<K extends BriefStep['kind'] = BriefStep['kind']> {
  readonly kind: K
  compile(level: Level, step: Extract<BriefStep, { kind: K }>, profile: ProfileRow, registers: Registers): StepRow
  begin(engine: Engine, n: number, row: StepRow): StepEnd
  update(engine: Engine, n: number, row: StepRow): StepEnd
}

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
