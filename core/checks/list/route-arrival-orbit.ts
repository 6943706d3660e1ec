import { bodyOf } from '@tidytrail/core/level'
import { distance2, exact, type Point3 } from '@tidytrail/core/geometry'
import { DEFAULT_ARRIVAL_M, PASSES_M, smallestCircleM } from '@tidytrail/core/rehearsal'
import type { Check } from '../check'
import { stopPlaces } from '../stops'
import { travellers } from '../travellers'
import { metres } from '../words'

/**
 * A body that cannot turn tighter than a circle never gets to what lies inside the circles beside it: it goes round and
 * round. The same holds for what Dubins (1957) calls the two turning circles at a start.
 */
export const routeArrivalOrbit: Check = {
  id: 'route.arrival-orbit',
  stage: 'routes',
  severity: 'warning',
  sentence:
    'A stop lies inside the smallest circle that what comes to it can turn in, and its arrival radius is too small to help.',
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    if (route.kind === 'network' || route.order.length < 3) return []
    const places = stopPlaces(look, route)
    const n = places.length
    const round = route.travel === 'round'
    for (const profileId of travellers(look, id)) {
      const profile = look.level.thing('profiles', profileId)
      if (!profile || bodyOf(profile.medium).turnsOnTheSpot) continue
      const circleM = smallestCircleM(profile)
      for (let i = round ? 0 : 2; i < n; i++) {
        const stopId = route.order[i]
        const stop = route.stops[stopId]
        const insideM = insideCircles(places[(i + n - 2) % n], places[(i + n - 1) % n], places[i], circleM)
        // Passing by counts, when it is near enough.
        const radiusM = Math.max(PASSES_M, stop.arrivalRadiusM ?? DEFAULT_ARRIVAL_M)
        if (insideM <= radiusM) continue
        return [
          {
            subjects: [id, stop.waypointId],
            at: places[i],
            message: `${profile.name} turns in no smaller a circle than ${metres(circleM)} and comes no nearer to stop ${i + 1} of ${route.name} than ${metres(insideM)}, which counts within ${metres(radiusM)}.`,
          },
        ]
      }
    }
    return []
  },
}

/** How far inside a turning circle a place lies for what arrives at a start from before it, metres; 0 when outside. */
function insideCircles(before: Point3, start: Point3, place: Point3, radiusM: number): number {
  const length = distance2(before, start)
  if (length === 0) return 0
  const nx = -(start[1] - before[1]) / length
  const ny = (start[0] - before[0]) / length
  let most = 0
  for (const side of [1, -1]) {
    const m = exact.hypot(place[0] - start[0] - side * nx * radiusM, place[1] - start[1] - side * ny * radiusM)
    most = Math.max(most, radiusM - m)
  }
  return most
}
