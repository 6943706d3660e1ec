import type { Point3 } from '@tidytrail/core/geometry'
import type { Route } from '@tidytrail/core/level'
import type { Look } from './check'

/** The places of a route's stops, in order. */
export const stopPlaces = (look: Look, route: Route): Point3[] =>
  route.order.map((s) => look.level.thing('waypoints', route.stops[s].waypointId)!.at)

/** Is anything said of a stop that would be missed? */
export const saysSomething = (stop: Route['stops'][string]): boolean =>
  stop.pause.maxS > 0 || stop.action !== '' || stop.note !== '' || stop.facingRad !== null || stop.look !== null
