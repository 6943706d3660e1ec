import type { Route } from '@tidytrail/core/level'
import type { PathAnswer } from '@tidytrail/core/reach'

/** Length of a route's ways, metres; legs that cannot be walked count for nothing. */
export function walkedLength(ways: readonly PathAnswer[]): number {
  return ways.reduce((sum, way) => sum + (way.found ? way.lengthM : 0), 0)
}

/** Time to travel a route once at a speed, with its pauses (the middle of those that vary), seconds. */
export function travelTimeS(route: Route, lengthM: number, speedMps: number): number {
  let pauses = 0
  for (const id of route.order) pauses += (route.stops[id].pause.minS + route.stops[id].pause.maxS) / 2
  return lengthM / speedMps + pauses
}
