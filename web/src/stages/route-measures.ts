import { climbOf } from '@tidytrail/core/geometry'
import type { Route } from '@tidytrail/core/level'
import type { PathAnswer } from '@tidytrail/core/reach'

/** Length and climb of a route's ways, metres; legs that cannot be walked count for nothing and are counted. */
export function routeMeasures(ways: readonly PathAnswer[]): { lengthM: number; climbM: number; blocked: number } {
  let lengthM = 0
  let climbM = 0
  let blocked = 0
  for (const way of ways) {
    if (!way.found) {
      blocked++
      continue
    }
    lengthM += way.lengthM
    climbM += climbOf(way.line)
  }
  return { lengthM, climbM, blocked }
}

/** Time to travel a route once at a speed, with its pauses (the middle of those that vary), seconds. */
export function travelTimeS(route: Route, lengthM: number, speedMps: number): number {
  let pauses = 0
  for (const id of route.order) pauses += (route.stops[id].pause.minS + route.stops[id].pause.maxS) / 2
  return lengthM / speedMps + pauses
}
