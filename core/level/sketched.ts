import { toMillimetre } from '@tidytrail/core/geometry'
import { freshName } from './edits/route'
import { plainRoute, plainStop } from './plain'
import type { Route, RouteKind, Stop, Waypoint } from './kinds'
import type { Collection, Level } from './schema'

/** A new thing, as `addThings` takes it. */
export interface NewThing {
  readonly in: Collection
  readonly id: string
  readonly thing: unknown
}
type NewId = (kind: 'routes' | 'waypoints' | 'stops' | 'links') => string

/** A route that is to be: where its stops are, and what is known of them. */
export interface RouteSketch {
  readonly name?: string
  readonly kind: RouteKind
  readonly closed?: boolean
  readonly places: readonly { readonly at: readonly number[]; readonly name?: string; readonly pauseS?: number }[]
  /** A route the new one is to be like, but for its stops. */
  readonly like?: Route
  /** What is said of each stop, where the new route has the stops of another. */
  readonly stops?: readonly Partial<Stop>[]
}

const WORD: Record<RouteKind, string> = {
  patrol: 'Patrol',
  lane: 'Lane',
  circuit: 'Circuit',
  mission: 'Mission',
  network: 'Network',
}

/** The things a sketched route is made of, its waypoints first; names that are taken get a number. */
export function sketchedRoutes(level: Level, sketches: readonly RouteSketch[], newId: NewId): NewThing[] {
  const things: NewThing[] = []
  const named: Record<string, { name: string }> = { ...level.routes }
  for (const { name, kind, closed, places, like, stops = [] } of sketches) {
    const id = newId('routes')
    const taken = Object.values(named).some((r) => r.name === name)
    const called = name && !taken ? name : freshName(named, name || WORD[kind])
    const route: Route = { ...(like ?? plainRoute(called, kind)), name: called, stops: {}, order: [], linkIds: [] }
    if (like && route.travel === 'round' && closed === false) route.travel = 'one-way'
    if (closed) route.travel = 'round'
    places.forEach((place, i) => {
      const waypointId = newId('waypoints')
      const at = place.at.map(toMillimetre) as [number, number, number]
      const waypoint: Waypoint = { name: place.name ?? '', at, liftM: 0, markerId: null, tags: [] }
      things.push({ in: 'waypoints', id: waypointId, thing: waypoint })
      const stopId = newId('stops')
      const pauseS = place.pauseS ?? 0
      const plain = plainStop(waypointId)
      route.stops[stopId] = {
        ...plain,
        ...(pauseS > 0 ? { pause: { minS: pauseS, maxS: pauseS } } : {}),
        ...stops[i],
        waypointId,
      }
      route.order.push(stopId)
    })
    named[id] = route
    things.push({ in: 'routes', id, thing: route })
  }
  return things
}
