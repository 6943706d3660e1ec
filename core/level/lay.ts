import { exact, toMillimetre } from '@tidytrail/core/geometry'
import { freshName, plainRoute, plainStop } from './edits/route'
import { collectionOf, type Collection } from './kinds'
import type { Level, Link, Route, RouteKind, Stop, Waypoint } from './schema'

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

/** A change of shape about a place: mirrored west for east first, then scaled, then turned. */
export interface Reshaping {
  readonly about: readonly [number, number]
  readonly turnRad?: number
  readonly scale?: number
  readonly mirror?: boolean
}

/** Where waypoints come to lie when they are reshaped, and where their stops then face; as the edit `reshape` takes it. */
export function reshaped(
  level: Level,
  waypointIds: readonly string[],
  { about: [x0, y0], turnRad = 0, scale = 1, mirror = false }: Reshaping,
) {
  const c = exact.cos(turnRad) * scale
  const s = exact.sin(turnRad) * scale
  const wanted = new Set(waypointIds)
  const places: Record<string, [number, number, number]> = {}
  for (const id of wanted) {
    const [x, y, z] = level.waypoints[id].at
    const dx = mirror ? x0 - x : x - x0
    places[id] = [x0 + dx * c - (y - y0) * s, y0 + dx * s + (y - y0) * c, z]
  }
  const turned = (rad: number) => {
    const all = (mirror ? Math.PI - rad : rad) + turnRad
    return Math.round((all - 2 * Math.PI * Math.round(all / (2 * Math.PI))) * 1e6) / 1e6
  }
  const stops: Record<string, Record<string, { facingRad?: number; look?: { fromRad: number; toRad: number } }>> = {}
  if (turnRad !== 0 || mirror) {
    for (const [routeId, route] of Object.entries(level.routes)) {
      for (const [stopId, stop] of Object.entries(route.stops)) {
        if (!wanted.has(stop.waypointId) || (stop.facingRad === null && !stop.look)) continue
        const set: { facingRad?: number; look?: { fromRad: number; toRad: number } } = {}
        if (stop.facingRad !== null) set.facingRad = turned(stop.facingRad)
        if (stop.look) {
          // From the one direction counterclockwise to the other, so many radians.
          const fromRad = turned(mirror ? stop.look.toRad : stop.look.fromRad)
          set.look = { fromRad, toRad: fromRad + stop.look.toRad - stop.look.fromRad }
        }
        ;(stops[routeId] ??= {})[stopId] = set
      }
    }
  }
  return { places, stops }
}

/** Names for things in an order, by a pattern in which # stands for the number: "Quay ##" gives "Quay 01". */
export function namesByPattern(pattern: string, count: number, first = 1): string[] {
  const marks = /#+/.exec(pattern)
  return Array.from({ length: count }, (_, i) => {
    const number = String(first + i)
    return marks ? pattern.replace(marks[0], number.padStart(marks[0].length, '0')) : `${pattern} ${number}`
  })
}

/** Routes, links and standing things taken out of a level, to be put into the same or another. */
export interface Clip {
  readonly format: 'tidytrail-clip'
  readonly waypoints: Record<string, Waypoint>
  readonly routes: Record<string, Route>
  readonly links: Record<string, Link>
  readonly things: readonly { readonly in: Collection; readonly id: string; readonly thing: unknown }[]
}

/** What is copied of a choice: whole routes with their waypoints and links, and things that stand for themselves. */
export function clipOf(level: Level, ids: readonly string[], standing: readonly Collection[]): Clip {
  const routes = Object.fromEntries(ids.flatMap((id) => (level.routes[id] ? [[id, level.routes[id]]] : [])))
  const wanted = new Set(Object.values(routes).flatMap((r) => Object.values(r.stops).map((s) => s.waypointId)))
  for (const id of ids) if (level.waypoints[id]) wanted.add(id)
  const own = new Set(Object.values(routes).flatMap((r) => r.linkIds))
  const links = Object.fromEntries(
    Object.entries(level.links).filter(([id, l]) => own.has(id) || (wanted.has(l.fromId) && wanted.has(l.toId))),
  )
  for (const link of Object.values(links)) wanted.add(link.fromId).add(link.toId)
  const things = ids.flatMap((id) => {
    const collection = collectionOf(level, id)
    return collection && standing.includes(collection) ? [{ in: collection, id, thing: level[collection][id] }] : []
  })
  const waypoints = Object.fromEntries([...wanted].map((id) => [id, level.waypoints[id]]))
  return { format: 'tidytrail-clip', waypoints, routes, links, things }
}

/**
 * The things of a clip with ids of their own, moved; what they named that this level has not is left out. Routes keep
 * their names unless these are taken.
 */
export function pasted(
  level: Level,
  clip: Clip,
  [dx, dy]: readonly [number, number],
  newId: (collection: Collection | 'stops') => string,
): NewThing[] {
  const ids = new Map<string, string>()
  const idOf = (old: string, collection: Collection | 'stops') => {
    let made = ids.get(old)
    if (!made) ids.set(old, (made = newId(collection)))
    return made
  }
  const shifted = (at: readonly number[]) => [toMillimetre(at[0] + dx), toMillimetre(at[1] + dy), ...at.slice(2)]
  const out: NewThing[] = []
  for (const [id, w] of Object.entries(clip.waypoints)) {
    const markerId = w.markerId && level.markers[w.markerId] ? w.markerId : null
    out.push({ in: 'waypoints', id: idOf(id, 'waypoints'), thing: { ...w, at: shifted(w.at), markerId } })
  }
  for (const [id, l] of Object.entries(clip.links)) {
    const thing = { ...l, fromId: idOf(l.fromId, 'waypoints'), toId: idOf(l.toId, 'waypoints') }
    out.push({ in: 'links', id: idOf(id, 'links'), thing })
  }
  const named: Record<string, { name: string }> = { ...level.routes }
  for (const [id, r] of Object.entries(clip.routes)) {
    const taken = Object.values(named).some((other) => other.name === r.name)
    const route: Route = {
      ...r,
      name: taken ? freshName(named, r.name.replace(/ \d+$/, '')) : r.name,
      stops: Object.fromEntries(
        Object.entries(r.stops).map(([s, stop]) => [
          idOf(s, 'stops'),
          { ...stop, waypointId: idOf(stop.waypointId, 'waypoints') },
        ]),
      ),
      order: r.order.map((s) => idOf(s, 'stops')),
      linkIds: r.linkIds.map((l) => idOf(l, 'links')),
      profileIds: r.profileIds.filter((p) => level.profiles[p]),
    }
    named[idOf(id, 'routes')] = route
    out.push({ in: 'routes', id: idOf(id, 'routes'), thing: route })
  }
  return out
}
