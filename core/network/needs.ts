import type { Point3 } from '@tidytrail/core/geometry'
import type { Level } from '@tidytrail/core/level'
import { legsOf } from './legs'
import type { LegPlanner } from './planner'
import { profilesOfRoute, stepsWithBodies, tellingsOf } from './following'

/**
 * Pairs of islands that a profile's routes lead from one to the other of though no way does, those most often needed
 * first: what a passage would help most with.
 */
export function islandNeeds(level: Level, planner: LegPlanner, profileId: string): [number, number][] {
  const counts = new Map<string, { pair: [number, number]; n: number }>()
  const islandAt = (at: Point3): number => {
    const spot = planner.map.reachedAt(...at)
    return spot ? planner.map.islandOf(spot) : -1
  }
  const need = (from: Point3, to: Point3): void => {
    const [a, b] = [islandAt(from), islandAt(to)]
    if (a < 0 || b < 0 || planner.joinsIslands(a, b)) return
    const pair: [number, number] = [Math.min(a, b), Math.max(a, b)]
    const known = counts.get(pair.join())
    if (known) known.n++
    else counts.set(pair.join(), { pair, n: 1 })
  }
  const place = (routeId: string, stop: number): Point3 => {
    const route = level.routes[routeId]
    return level.waypoints[route.stops[route.order[stop]].waypointId].at
  }
  for (const [id, route] of Object.entries(level.routes)) {
    if (route.kind === 'network' || !profilesOfRoute(level, id).includes(profileId)) continue
    for (const { from, to } of legsOf(route)) need(place(id, from), place(id, to))
  }
  for (const [id, { at }] of Object.entries(level.spawners))
    for (const telling of tellingsOf(level, id)) {
      if (telling.profileId !== profileId) continue
      for (const { step, profileId: body } of stepsWithBodies(level, telling)) {
        if (body !== profileId || step.kind !== 'follow-route') continue
        if (step.routeId && level.routes[step.routeId]?.order.length) need(at, place(step.routeId, 0))
      }
    }
  return [...counts.values()]
    .sort((p, q) => q.n - p.n || p.pair[0] - q.pair[0] || p.pair[1] - q.pair[1])
    .map((c) => c.pair)
}
