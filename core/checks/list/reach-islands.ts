import { mix3 } from '@tidytrail/core/geometry'
import type { Check } from '../check'
import { nearestMiss } from '../ways/miss'
import { moveToReach, MOST_MOVED_M } from '../moving'

export const reachIslands: Check = {
  id: 'reach.islands',
  stage: 'reach',
  severity: 'blocker',
  sentence: 'A spawner and the route its agents are to follow lie on islands nothing joins.',
  each: 'spawners',
  run(look, id) {
    const spawner = look.level.thing('spawners', id)!
    const brief = spawner.briefId ? look.level.thing('briefs', spawner.briefId) : undefined
    if (!brief || !spawner.profileId) return []
    for (const stepId of brief.order) {
      const step = brief.steps[stepId]
      const route = step.kind === 'follow-route' && step.routeId ? look.level.thing('routes', step.routeId) : undefined
      if (!route || route.order.length < 2) continue
      const firstId = route.stops[route.order[0]].waypointId
      const first = look.level.thing('waypoints', firstId)!
      const here = look.reach.island(spawner.profileId, spawner.at)
      const there = look.reach.island(spawner.profileId, first.at)
      if (here === undefined || there === undefined || here === there) continue
      // On two islands, but a passage may join them.
      const path = look.reach.path(spawner.profileId, spawner.at, first.at, 'found')
      if (!path || path.found) continue
      const map = look.reach.map(spawner.profileId, spawner.at, MOST_MOVED_M)!
      const { routeId } = step as { routeId: string }
      const miss = nearestMiss(look, {
        profileId: spawner.profileId,
        from: spawner.at,
        to: first.at,
        spawnerIds: [id],
        things: [
          { in: 'spawners', id, at: spawner.at },
          { in: 'waypoints', id: firstId, at: first.at },
        ],
        key: [id, routeId],
        near: mix3(spawner.at, first.at, 0.5),
      })
      const area = (n: number) => `${Math.round(map.islands.list[n].areaM2)} m²`
      return [
        {
          subjects: [id, routeId],
          at: spawner.at,
          message: `${spawner.name} is on an island of ${area(here)}, and ${route.name} begins on another of ${area(there)}; ${miss.words}.`,
          ways: miss.ways,
          ...moveToReach(map, id, 'the spawner', spawner.at, there),
        },
      ]
    }
    return []
  },
}
