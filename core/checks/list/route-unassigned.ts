import { distance2 } from '@tidytrail/core/geometry'
import type { Check } from '../check'
import { derivedId } from '../derived-id'
import { briefOfSpawner } from '../told-by'

export const routeUnassigned: Check = {
  id: 'route.unassigned',
  stage: 'cast',
  severity: 'warning',
  sentence: 'Nobody follows the route.',
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    // Lanes are come along from others: of those it is told that nobody comes.
    if (
      route.kind === 'network' ||
      route.kind === 'lane' ||
      route.order.length < 2 ||
      look.graph.followers(id).length > 0
    )
      return []
    const first = look.level.thing('waypoints', route.stops[route.order[0]].waypointId)!
    const idle = Object.entries(look.level.all('spawners'))
      .filter(([, s]) => briefOfSpawner(look, s) === null)
      .sort(([, a], [, b]) => distance2(a.at, first.at) - distance2(b.at, first.at))[0]
    return [
      {
        subjects: [id],
        at: first.at,
        message: `Nobody follows ${route.name}.`,
        ...(idle
          ? {
              fix: {
                label: `Let ${idle[1].name} follow it`,
                edit: 'assignRoute' as const,
                args: {
                  spawnerId: idle[0],
                  routeId: id,
                  briefId: derivedId('br', idle[0], id),
                  stepId: derivedId('bs', idle[0], id),
                },
              },
            }
          : {}),
      },
    ]
  },
}
