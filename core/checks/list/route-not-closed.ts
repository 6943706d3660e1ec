import { distance2 } from '@tidytrail/core/geometry'
import type { Check } from '../check'
import { stopPlaces } from '../stops'
import { metres } from '../words'

/** Ends so near are at one place, metres. */
const SAME_M = 0.5
/** Ends this near to one another, or nearer than a part of the usual leg, were meant to meet. */
const NEAR_M = 4
const PART_OF_LEG = 0.5

export const routeNotClosed: Check = {
  id: 'route.not-closed',
  stage: 'routes',
  severity: 'warning',
  sentence: 'A route comes back to where it began and does not close, or a circuit is no round.',
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    if (route.travel === 'round' || route.order.length < 3) return []
    if (route.kind !== 'patrol' && route.kind !== 'circuit' && route.kind !== 'lane') return []
    if (route.travel === 'there-and-back' && route.kind !== 'circuit') return []
    const places = stopPlaces(look, route)
    const [first, last] = [places[0], places[places.length - 1]]
    const gapM = distance2(first, last)
    let length = 0
    for (let i = 1; i < places.length; i++) length += distance2(places[i - 1], places[i])
    const mean = length / (places.length - 1)
    const near = gapM <= Math.min(NEAR_M, mean * PART_OF_LEG) && Math.abs(first[2] - last[2]) < 1
    if (route.kind !== 'circuit' && !near) return []
    // Ends at one place are one stop too many: the last goes, and the round closes without it.
    const one = gapM < SAME_M
    if (route.travel === 'there-and-back') {
      return [
        {
          subjects: [id],
          at: last,
          message: `${route.name} is a circuit that turns back at its end instead of going round.`,
          fix: {
            label: 'Go round',
            edit: 'changeThings',
            args: { in: 'routes', changes: { [id]: { travel: 'round' } } },
          },
        },
      ]
    }
    return [
      {
        subjects: [id],
        at: last,
        message:
          route.kind === 'circuit'
            ? `${route.name} is a circuit that does not close; its ends are ${metres(gapM)} apart.`
            : `${route.name} ends ${metres(gapM)} from where it begins, and does not close.`,
        fix: one
          ? {
              label: 'Close the round at its first stop',
              edit: 'closeAtStart',
              args: { routeId: id },
            }
          : { label: 'Close the round', edit: 'joinRoutes', args: { routeId: id, otherId: id } },
      },
    ]
  },
}
