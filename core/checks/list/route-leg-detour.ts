import { distance2, distanceToSegment, toMillimetre, turn, type Point3 } from '@tidytrail/core/geometry'
import { legsOf } from '@tidytrail/core/network'
import type { Check } from '../check'
import { derivedId } from '../derived-id'
import { stopPlaces } from '../stops'
import { travellers } from '../travellers'
import { metres } from '../words'

/** A way this much longer than the straight line, and longer by so many metres, is a detour. */
const MOST_TIMES = 1.6
const AND_M = 8

export const routeLegDetour: Check = {
  id: 'route.leg-detour',
  stage: 'routes',
  severity: 'note',
  sentence: 'The way found from one stop to the next is much longer than the line between them.',
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    if (route.kind === 'network' || route.legs !== 'found') return []
    const places = stopPlaces(look, route)
    /** Would legs by way of a corner cross others? Then crossing legs would be found next. */
    const crosses = (a: Point3, corner: Point3, b: Point3, leg: number) =>
      legsOf(route).some(
        ({ from, to }, k) =>
          k !== leg &&
          [
            [a, corner],
            [corner, b],
          ].some(([p, q]) => properlyCross(p, q, places[from], places[to])),
      )
    for (const profileId of travellers(look, id)) {
      const paths = look.reach.legs(profileId, id)
      for (const [n, { from, to }] of legsOf(route).entries()) {
        const path = paths?.[n]
        const straightM = distance2(places[from], places[to])
        if (!path?.found || path.lengthM < straightM * MOST_TIMES + AND_M || path.uses.length > 0) continue
        const [a, b] = [places[from], places[to]]
        const off = (p: readonly number[]) => distanceToSegment(p[0], p[1], a[0], a[1], b[0], b[1])
        const corner = path.line.slice(1, -1).reduce((best, p) => (off(p) > off(best) ? p : best), path.line[0])
        const at: [number, number, number] = [toMillimetre(corner[0]), toMillimetre(corner[1]), toMillimetre(corner[2])]
        const [fromStop, toStop] = [route.order[from], route.order[to]]
        return [
          {
            subjects: [id, route.stops[fromStop].waypointId, route.stops[toStop].waypointId],
            at,
            message: `Leg ${from + 1} to ${to + 1} of ${route.name} goes ${metres(path.lengthM)} round what is ${metres(straightM)} away.`,
            ...(off(corner) > 1 && !crosses(a, at, b, n)
              ? {
                  fix: {
                    label: 'Put a stop at the detour’s corner',
                    edit: 'addStop' as const,
                    args: {
                      routeId: id,
                      stopId: derivedId('st', fromStop, toStop, 'd'),
                      waypointId: derivedId('wp', fromStop, toStop, 'd'),
                      at,
                      index: from + 1,
                    },
                  },
                }
              : {}),
          },
        ]
      }
    }
    return []
  },
}

/** Do two lines cross between their ends? Ends that touch do not count: legs share their stops. */
function properlyCross(a: Point3, b: Point3, c: Point3, d: Point3): boolean {
  return turn(a, b, c) * turn(a, b, d) < 0 && turn(c, d, a) * turn(c, d, b) < 0
}
