import { mix3 } from '@tidytrail/core/geometry'
import { legsOf } from '@tidytrail/core/network'
import type { Check } from '../check'
import type { Finding } from '../finding'
import { moveToReach } from '../moving'
import { followersWith, judgedBy, travellers } from '../travellers'
import { inTheWay } from '../ways/in-the-way'
import { nearestMiss } from '../ways/miss'

export const routeLegBlocked: Check = {
  id: 'route.leg-blocked',
  stage: 'routes',
  severity: 'blocker',
  sentence: 'There is no way for the route’s agents from one stop to the next.',
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    if (route.kind === 'network') return []
    const found: Omit<Finding, 'check' | 'stage' | 'severity'>[] = []
    const profiles = travellers(look, id)
    const places = route.order.map((s) => look.level.thing('waypoints', route.stops[s].waypointId)!)
    const legs = legsOf(route)
    const paths = new Map(profiles.map((p) => [p, look.reach.legs(p, id)]))
    for (const [n, leg] of legs.entries()) {
      const fromId = route.stops[route.order[leg.from]].waypointId
      const toId = route.stops[route.order[leg.to]].waypointId
      const from = places[leg.from]
      const to = places[leg.to]
      for (const profileId of profiles) {
        const path = paths.get(profileId)?.[n]
        // Ends out of reach are findings of their own.
        if (!path || path.found || path.why !== 'apart') continue
        const map = look.reach.map(profileId, to.at, 0)!
        const name = look.level.thing('profiles', profileId)!.name
        const stopsAt = path.stopsAt ?? mix3(from.at, to.at, 0.5)
        const label = `leg ${leg.from + 1} to ${leg.to + 1} of ${route.name}`
        const a = look.reach.island(profileId, from.at)
        const b = look.reach.island(profileId, to.at)
        if (route.legs === 'drawn' && a === b) {
          found.push({
            subjects: [id, fromId, toId],
            at: stopsAt,
            message: `${name} cannot walk ${label} as drawn: ${inTheWay(look, profileId, stopsAt, to.at)}.${judgedBy(look, id)}`,
            fix: {
              label: 'Find a way round',
              edit: 'changeThings',
              args: { in: 'routes', changes: { [id]: { legs: 'found' } } },
            },
          })
        } else {
          const miss = nearestMiss(look, {
            profileId,
            from: from.at,
            to: to.at,
            spawnerIds: followersWith(look, id, profileId),
            things: route.order.slice(0, MOST_CARRIED).map((s, k) => ({
              in: 'waypoints',
              id: route.stops[s].waypointId,
              at: places[k].at,
            })),
            ...(route.legs === 'drawn' ? { drawnRouteId: id } : {}),
            key: [route.order[leg.from], route.order[leg.to]],
            near: stopsAt,
          })
          const stranded =
            (b ?? 0) > (a ?? 0) ? { id: toId, at: to.at, n: leg.to } : { id: fromId, at: from.at, n: leg.from }
          found.push({
            subjects: [id, fromId, toId],
            at: stopsAt,
            message: `${name} cannot walk ${label}: ${miss.words}.${judgedBy(look, id)}`,
            ways: miss.ways,
            ...moveToReach(map, stranded.id, `stop ${stranded.n + 1}`, stranded.at, Math.min(a ?? 0, b ?? 0)),
          })
        }
        break
      }
    }
    return found
  },
}

/** So many stops of a route come along when what they lie on is moved. */
const MOST_CARRIED = 200
