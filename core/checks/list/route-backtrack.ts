import { degrees, distance2, exact, type Point3 } from '@tidytrail/core/geometry'
import type { Check } from '../check'
import type { Finding } from '../finding'
import { saysSomething, stopPlaces } from '../stops'
import { travellers } from '../travellers'

/** A turn sharper than this goes back where one came from. */
const SHARP_RAD = (165 * Math.PI) / 180

export const routeBacktrack: Check = {
  id: 'route.backtrack',
  stage: 'routes',
  severity: 'note',
  sentence: 'A route turns right round at a stop where there is nothing to do, as it does when two stops are swapped.',
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    if (route.kind === 'network' || route.kind === 'mission' || route.travel === 'any-order') return []
    const places = stopPlaces(look, route)
    const n = places.length
    const round = route.travel === 'round' && n > 2
    const found: Omit<Finding, 'check' | 'stage' | 'severity'>[] = []
    const [profileId] = travellers(look, id)
    const paths = profileId ? look.reach.legs(profileId, id) : undefined
    for (let i = round ? 0 : 1; i < (round ? n : n - 1); i++) {
      const stopId = route.order[i]
      const [before, at, after] = [places[(i + n - 1) % n], places[i], places[(i + 1) % n]]
      if (saysSomething(route.stops[stopId]) || turnRad(before, at, after) < SHARP_RAD) continue
      // What is found may come and go another way than the straight line.
      const [came, goes] = [paths?.[(i + n - 1) % n], paths?.[i]]
      if (route.legs === 'found' && came?.found && goes?.found) {
        if (turnRad(came.line[came.line.length - 2], at, goes.line[1]) < SHARP_RAD) continue
      }
      const swap = betterSwap(places, i, round)
      found.push({
        subjects: [id, route.stops[stopId].waypointId],
        at,
        message: `${route.name} turns back by ${degrees(turnRad(before, at, after)).toFixed(0)}° at stop ${i + 1}, where there is nothing to do.`,
        ...(swap
          ? {
              fix: {
                label: `Swap stops ${swap[0] + 1} and ${swap[1] + 1}`,
                edit: 'swapStops' as const,
                args: { routeId: id, stopIds: [route.order[swap[0]], route.order[swap[1]]] as [string, string] },
              },
            }
          : {}),
      })
    }
    return found
  },
}

function turnRad(a: Point3, b: Point3, c: Point3): number {
  if (distance2(a, b) === 0 || distance2(b, c) === 0) return 0
  const turn = exact.atan2(c[1] - b[1], c[0] - b[0]) - exact.atan2(b[1] - a[1], b[0] - a[0])
  return Math.abs(turn - 2 * Math.PI * Math.round(turn / (2 * Math.PI)))
}

/** The neighbour to swap with that makes the route shortest, when it makes it shorter at all. */
function betterSwap(places: readonly Point3[], i: number, round: boolean): [number, number] | undefined {
  const n = places.length
  const length = (list: readonly Point3[]) => {
    let sum = round ? distance2(list[n - 1], list[0]) : 0
    for (let k = 1; k < n; k++) sum += distance2(list[k - 1], list[k])
    return sum
  }
  let best: { pair: [number, number]; m: number } | undefined
  for (const j of [i - 1, i + 1]) {
    if (j < 0 || j >= n) continue
    const swapped = [...places]
    ;[swapped[i], swapped[j]] = [swapped[j], swapped[i]]
    const m = length(swapped)
    if (m < (best?.m ?? length(places) - 0.5)) best = { pair: [Math.min(i, j), Math.max(i, j)], m }
  }
  return best?.pair
}
