import { smoothPieces, type Point3 } from '@tidytrail/core/geometry'
import type { Level, Route } from '@tidytrail/core/level'
import type { PathAnswer } from '@tidytrail/core/reach'
import { legsOf } from './legs'
import type { LegPlanner } from './planner'

/** Places of a smooth line lie about so far apart, metres. */
const EVERY_M = 0.5

interface Course {
  readonly places: readonly Point3[]
  readonly lines: readonly (readonly Point3[])[]
}

const known = new WeakMap<Route, Course>()
const turned = new WeakMap<readonly Point3[], readonly Point3[]>()

/**
 * The line each leg of a route is drawn with: from stop to stop, or smoothly through all of them. The same objects are
 * given as long as neither the route nor a place of it has changed.
 */
export function courseOf(route: Route, waypoints: Level['waypoints']): readonly (readonly Point3[])[] {
  const places = route.order.map((s) => waypoints[route.stops[s].waypointId].at as Point3)
  const before = known.get(route)
  if (before && before.places.length === places.length && before.places.every((p, i) => p === places[i]))
    return before.lines
  const lines =
    route.curve === 'smooth' && route.legs === 'drawn' && route.kind !== 'network'
      ? smoothPieces(places, {
          closed: route.travel === 'round',
          tension: route.tension,
          sharp: (i) => route.stops[route.order[i]].sharp,
          everyM: EVERY_M,
        })
      : legsOf(route).map((leg): Point3[] => [places[leg.from], places[leg.to]])
  known.set(route, { places, lines })
  return lines
}

/** The way of a leg for whoever a planner is for, from one stop to the one after or before it. */
export function legPath(
  planner: LegPlanner,
  route: Route,
  waypoints: Level['waypoints'],
  from: number,
  to: number,
): PathAnswer {
  const at = (i: number): Point3 => waypoints[route.stops[route.order[i]].waypointId].at
  if (route.legs === 'found' || route.curve === 'straight') return planner.path(at(from), at(to), route.legs)
  const course = courseOf(route, waypoints)
  const n = route.order.length
  const ahead = (from + 1) % n === to && from < course.length ? course[from] : undefined
  if (ahead) return planner.along(ahead)
  const behind = (to + 1) % n === from && to < course.length ? course[to] : undefined
  if (!behind) return planner.path(at(from), at(to), route.legs)
  let back = turned.get(behind)
  if (!back) turned.set(behind, (back = [...behind].reverse()))
  return planner.along(back)
}
