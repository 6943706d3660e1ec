import { boxOf, type Box2 } from '@tidytrail/core/geometry'
import type { Level, Route } from '@tidytrail/core/level'
import type { PathAnswer } from '@tidytrail/core/reach'
import type { InkName } from '../../map/inks'
import type { Pen } from '../../map/pen'
import { ROUTE_STYLES } from './styles/list'

export const STOP_RADIUS_PX = 10

export interface RouteLook {
  readonly chosen: boolean
  readonly hovered: boolean
  readonly chosenStops: ReadonlySet<string>
  readonly paths: readonly PathAnswer[] | undefined
  /** How far to the left each leg is drawn, pixels; none when it shares no leg. */
  readonly shifts: readonly number[] | undefined
  /** One of very many: a plain line with small stops. */
  readonly plain: boolean
}

/** When more routes than these are on the sheet at once, they are drawn plainly. */
export const MANY_ROUTES = 300

export const inkOf = (route: Pick<Route, 'kind' | 'colour'>): InkName => route.colour ?? ROUTE_STYLES[route.kind].ink

const stopPlaces = (level: Level, route: Route) => route.order.map((s) => level.waypoints[route.stops[s].waypointId].at)

export interface Extent {
  /** All waypoints as they were when this was worked out. */
  waypoints: Level['waypoints']
  readonly places: readonly (readonly number[])[]
  readonly box: Box2
  /** Mean distance from stop to stop, metres. */
  readonly meanM: number
}
const extents = new WeakMap<Route, Extent>()

/** Where a route lies, kept until it or a place of it changes. */
export function extentOf(level: Level, route: Route): Extent {
  const known = extents.get(route)
  if (known?.waypoints === level.waypoints) return known
  const places = stopPlaces(level, route)
  if (known && known.places.every((p, i) => p === places[i])) {
    known.waypoints = level.waypoints
    return known
  }
  let length = 0
  for (let i = 1; i < places.length; i++)
    length += Math.hypot(places[i][0] - places[i - 1][0], places[i][1] - places[i - 1][1])
  const extent = {
    waypoints: level.waypoints,
    places,
    box: boxOf(places, 20),
    meanM: length / Math.max(1, places.length - 1),
  }
  extents.set(route, extent)
  return extent
}

/** Is the route so small on the sheet that it is drawn as a plain line? Blazes would cover one another. */
export const crowded = (pen: Pen, extent: Extent, look: RouteLook) =>
  (look.plain && !look.chosen && !look.hovered) || (extent.places.length > 2 && extent.meanM * pen.view.scale < 26)
