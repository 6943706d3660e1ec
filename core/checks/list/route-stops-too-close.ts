import { distance3 } from '@tidytrail/core/geometry'
import { DEFAULT_ARRIVAL_M } from '@tidytrail/core/rehearsal'
import { legsOf } from '@tidytrail/core/network'
import type { Check } from '../check'
import type { Finding } from '../finding'
import { saysSomething, stopPlaces } from '../stops'
import { metres } from '../words'

export const routeStopsTooClose: Check = {
  id: 'route.stops-too-close',
  stage: 'routes',
  severity: 'warning',
  sentence: 'Two stops that follow one another are nearer than the arrival radius, so that one is at both at once.',
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    if (route.kind === 'network') return []
    const places = stopPlaces(look, route)
    const found: Omit<Finding, 'check' | 'stage' | 'severity'>[] = []
    for (const { from, to } of legsOf(route)) {
      const [a, b] = [route.stops[route.order[from]], route.stops[route.order[to]]]
      const radiusM = b.arrivalRadiusM ?? DEFAULT_ARRIVAL_M
      const m = distance3(places[from], places[to])
      if (m >= radiusM) continue
      const spare = !saysSomething(b) ? to : !saysSomething(a) ? from : undefined
      found.push({
        subjects: [id, b.waypointId, a.waypointId],
        at: places[to],
        message: `Stops ${from + 1} and ${to + 1} of ${route.name} are ${metres(m)} apart, less than the arrival radius of ${metres(radiusM)}.`,
        ...(spare === undefined
          ? {}
          : {
              fix: {
                label: `Take stop ${spare + 1} out`,
                edit: 'removeStops' as const,
                args: { routeId: id, stopIds: [route.order[spare]] },
              },
            }),
      })
    }
    return found
  },
}
