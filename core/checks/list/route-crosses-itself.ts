import { distance2, mix3, segmentsMeet, turn, type Point3 } from '@tidytrail/core/geometry'
import type { Route } from '@tidytrail/core/level'
import { courseOf, legsOf } from '@tidytrail/core/network'
import Flatbush from 'flatbush'
import type { Check, Look } from '../check'
import type { Fix } from '../fix'
import { stopPlaces } from '../stops'
import { travellers } from '../travellers'

export const routeCrossesItself: Check = {
  id: 'route.crosses-itself',
  stage: 'routes',
  severity: 'note',
  sentence:
    'The lines between the stops of a round, lane or circuit cross, as they do when two stops are in the wrong order.',
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    const matters =
      route.kind === 'lane' || route.kind === 'circuit' || (route.kind === 'patrol' && route.travel === 'round')
    if (!matters || route.order.length < 4) return []
    const places = stopPlaces(look, route)
    const legs = legsOf(route)
    const [profileId] = travellers(look, id)
    const paths = profileId ? look.reach.legs(profileId, id) : undefined
    const crossing =
      route.curve === 'smooth' && route.legs === 'drawn' ? curveCrossing(courseOf(route, at(look, route))) : undefined
    for (let i = 0; i < legs.length; i++) {
      for (let j = i + 2; j < legs.length; j++) {
        if (i === 0 && legs[j].to === legs[0].from) continue
        const [a, b] = [places[legs[i].from], places[legs[i].to]]
        const [c, d] = [places[legs[j].from], places[legs[j].to]]
        // On different storeys lines lie over one another without meeting.
        const apart = Math.min(Math.max(a[2], b[2]) - Math.min(c[2], d[2]), Math.max(c[2], d[2]) - Math.min(a[2], b[2]))
        if (apart < -1.5 || !segmentsMeet(a, b, c, d)) continue
        // What is found may go round one another.
        const [one, other] = [paths?.[i], paths?.[j]]
        if (route.legs === 'found' && one?.found && other?.found && !linesMeet(one.line, other.line)) continue
        const span = turn(a, b, c) - turn(a, b, d)
        const at = span === 0 ? c : mix3(c, d, turn(a, b, c) / span)
        // Reversing what lies between uncrosses the two legs.
        const between = route.order.slice(legs[i].to, legs[j].from + 1).reverse()
        return [
          {
            subjects: [id],
            at,
            message: `${route.name} crosses itself: leg ${legs[i].from + 1} to ${legs[i].to + 1} over leg ${legs[j].from + 1} to ${legs[j].to + 1}.`,
            fix: {
              label: `Reverse stops ${legs[i].to + 1} to ${legs[j].from + 1}`,
              edit: 'orderStops',
              args: { routeId: id, stopIds: between, from: legs[i].to },
            },
            ways: inOtherOrder(id, route, places),
          },
        ]
      }
    }
    if (!crossing) return []
    const [i, j] = crossing.legs
    return [
      {
        subjects: [id],
        at: crossing.at,
        message: `The curve of ${route.name} crosses itself: ${i === j ? `on leg ${i + 1}` : `leg ${i + 1} over leg ${j + 1}`}.`,
        fix: {
          label: 'Go straight from stop to stop',
          edit: 'changeThings',
          args: { in: 'routes', changes: { [id]: { curve: 'straight' } } },
        },
      },
    ]
  },
}

/** Routes with more stops than this are not ordered anew. */
const MOST_ORDERED = 300

/**
 * The stops in an order in which no leg crosses another, the first staying the first: stretches are reversed while that
 * makes the route shorter (2-opt, Croes 1958), which no crossing outlives.
 */
function inOtherOrder(routeId: string, route: Route, places: readonly Point3[]): Fix[] {
  const n = places.length
  if (n > MOST_ORDERED) return []
  const order = places.map((_, i) => i)
  const closed = route.travel === 'round'
  const apart = (i: number, j: number) => distance2(places[order[i]], places[order[j % n]])
  for (let better = true; better;) {
    better = false
    for (let i = 0; i < n - 2; i++) {
      for (let j = i + 2; j < (closed ? n : n - 1); j++) {
        if (apart(i, i + 1) + apart(j, j + 1) <= apart(i, j) + apart(i + 1, j + 1) + 1e-9) continue
        order.splice(i + 1, j - i, ...order.slice(i + 1, j + 1).reverse())
        better = true
      }
    }
  }
  return [
    {
      label: 'Put its stops in an order that does not cross',
      edit: 'orderStops',
      args: { routeId, stopIds: order.map((i) => route.order[i]) },
    },
  ]
}

/** The places of a route's stops, by their waypoints. */
const at = (look: Look, route: Route) =>
  Object.fromEntries(
    route.order.map((s) => {
      const { waypointId } = route.stops[s]
      return [waypointId, look.level.thing('waypoints', waypointId)!]
    }),
  )

/** Where a smooth line meets itself, and on which legs; undefined when it does not. */
function curveCrossing(course: readonly (readonly Point3[])[]): { at: Point3; legs: [number, number] } | undefined {
  const pieces = course.flatMap((line, leg) => line.slice(1).map((to, k) => ({ from: line[k], to, leg })))
  const index = new Flatbush(Math.max(1, pieces.length))
  for (const { from, to } of pieces)
    index.add(Math.min(from[0], to[0]), Math.min(from[1], to[1]), Math.max(from[0], to[0]), Math.max(from[1], to[1]))
  if (pieces.length === 0) return undefined
  index.finish()
  const n = pieces.length
  for (const [i, p] of pieces.entries()) {
    const box = [
      Math.min(p.from[0], p.to[0]),
      Math.min(p.from[1], p.to[1]),
      Math.max(p.from[0], p.to[0]),
      Math.max(p.from[1], p.to[1]),
    ] as const
    for (const j of index.search(...box)) {
      // Neighbours share an end, and so do the first and the last of a round.
      if (j <= i + 1 || (i === 0 && j === n - 1)) continue
      const q = pieces[j]
      if (Math.abs(p.from[2] - q.from[2]) > 1.5 || !segmentsMeet(p.from, p.to, q.from, q.to)) continue
      return { at: p.to, legs: [p.leg, q.leg] }
    }
  }
  return undefined
}

function linesMeet(a: readonly Point3[], b: readonly Point3[]): boolean {
  for (let i = 1; i < a.length; i++)
    for (let j = 1; j < b.length; j++) if (segmentsMeet(a[i - 1], a[i], b[j - 1], b[j])) return true
  return false
}
