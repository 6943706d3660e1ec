import { sameValue } from '../units'
import { lengthOf } from '@tidytrail/core/geometry'
import { defineChanges, defineEdit } from '../edit'
import { keysOf } from '../keys'
import type { Route, Stop, TravelMode } from '../kinds'
import { plainRoute, plainStop } from '../plain'
import type { Level } from '../schema'
import { dropUnused, putWaypoint, removeLinks, takeStops } from './parts'

export { plainRoute, plainStop }

/** A name no other route has: "Patrol 1", "Patrol 2" … */
export function freshName(things: Record<string, { name: string }>, word: string): string {
  const taken = new Set(Object.values(things).map((t) => t.name))
  for (let n = 1; ; n++) if (!taken.has(`${word} ${n}`)) return `${word} ${n}`
}

/** A name as it is unless something has it already, then with a number. */
export const freshNameFor = (things: Record<string, { name: string }>, name: string): string =>
  Object.values(things).some((t) => t.name === name) ? freshName(things, name) : name

const routeName = (level: Level, id: string) => level.routes[id]?.name ?? 'route'

export const addRoute = defineEdit<{ id: string; name: string; kind: Route['kind'] }>(
  (_level, { name }) => `Start ${name}`,
  (draft, { id, name, kind }) => {
    draft.routes[id] = plainRoute(name, kind)
  },
)

/** Add a stop at a place, or at an existing waypoint when no place is given. */
export const addStop = defineChanges<{
  routeId: string
  stopId: string
  waypointId: string
  at?: readonly number[]
  /** The marker a new waypoint stands for. */
  markerId?: string
  index?: number
}>(
  (level, { routeId }) => `Add a stop to ${routeName(level, routeId)}`,
  (changes, { routeId, stopId, waypointId, at, markerId, index }, base) => {
    const route = base.routes[routeId]
    if (!route) return
    if (at) putWaypoint(changes, waypointId, at, markerId)
    if (!changes.level.waypoints[waypointId]) return
    changes.set(['routes', routeId, 'stops', stopId], plainStop(waypointId))
    changes.insert(['routes', routeId, 'order'], index ?? route.order.length, stopId)
  },
)

/** Take stops out of a route; the neighbours join up, and a waypoint nothing else uses goes too. */
export const removeStops = defineChanges<{ routeId: string; stopIds: readonly string[] }>(
  (level, { routeId, stopIds }) =>
    `Take ${stopIds.length === 1 ? 'a stop' : `${stopIds.length} stops`} out of ${routeName(level, routeId)}`,
  (changes, { routeId, stopIds }, base) => {
    const route = base.routes[routeId]
    if (!route) return
    const gone = new Set(stopIds.filter((s) => route.stops[s]))
    const freed = new Set([...gone].map((s) => route.stops[s].waypointId))
    takeStops(changes, routeId, gone)
    // A node that leaves a network leaves its links behind; they go.
    const left = changes.level.routes[routeId]
    const lost = new Set(freed)
    for (const stopId of keysOf(left.stops)) lost.delete(left.stops[stopId].waypointId)
    const links = route.linkIds.filter((l) => lost.has(base.links[l].fromId) || lost.has(base.links[l].toId))
    removeLinks(changes, new Set(links))
    dropUnused(changes, freed)
  },
)

export const moveStop = defineEdit<{ routeId: string; stopId: string; to: number }>(
  (level, { routeId }) => `Reorder the stops of ${routeName(level, routeId)}`,
  (draft, { routeId, stopId, to }) => {
    const route = draft.routes[routeId]
    const from = route?.order.indexOf(stopId) ?? -1
    if (from < 0) return
    route.order.splice(from, 1)
    route.order.splice(Math.max(0, Math.min(to, route.order.length)), 0, stopId)
  },
)

export const reverseRoute = defineEdit<{ routeId: string }>(
  (level, { routeId }) => `Reverse ${routeName(level, routeId)}`,
  (draft, { routeId }) => {
    const route = draft.routes[routeId]
    if (!route) return
    route.order.reverse()
    Object.assign(route, turnedStretches(route, draft.waypoints))
  },
)

/** How long a route is straight through its places, metres. */
export function straightM(
  { order, stops, travel }: Pick<Route, 'order' | 'stops' | 'travel'>,
  waypoints: Level['waypoints'],
): number {
  const places = order.map((id) => waypoints[stops[id].waypointId].at)
  if (travel === 'round' && places.length > 0) places.push(places[0])
  return lengthOf(places)
}

const other = { both: 'both', on: 'on', left: 'right', right: 'left' } as const

/** What is said of the sides of a lane that lies on the other side of its road. */
export const mirroredSides = ({ noChange, halts }: Route): Pick<Route, 'noChange' | 'halts'> => ({
  noChange: noChange.map((s) => ({ ...s, side: other[s.side] })),
  halts: halts.map((h) => ({ ...h, where: other[h.where] })),
})

/** What is said of stretches of a lane, seen the other way round: as long as it is drawn straight through its places. */
export function turnedStretches(
  { noChange, halts, order, stops, travel }: Route,
  waypoints: Level['waypoints'],
): Pick<Route, 'noChange' | 'halts'> {
  if (noChange.length === 0 && halts.length === 0) return { noChange, halts }
  const lengthM = straightM({ order, stops, travel }, waypoints)
  const back = <S extends { fromM: number; toM: number }>(all: readonly S[], turn: (one: S) => Partial<S>): S[] =>
    all
      .map((s) => ({ ...s, ...turn(s), fromM: Math.max(0, lengthM - s.toM), toM: Math.max(0, lengthM - s.fromM) }))
      .reverse()
  return {
    noChange: back(noChange, ({ side }) => ({ side: other[side] })),
    halts: back(halts, ({ where }) => ({ where: other[where] })),
  }
}

type Stretches = Pick<Route, 'noChange' | 'halts'>
type Stretch = { readonly fromM: number; readonly toM: number }

/** What is said of stretches of a lane before a place and beyond it, each from its own beginning; one across it is cut. */
export function cutStretches({ noChange, halts }: Stretches, atM: number): [Stretches, Stretches] {
  const before = <S extends Stretch>(all: readonly S[]): S[] =>
    all.flatMap((s) => (s.fromM < atM ? [{ ...s, toM: Math.min(s.toM, atM) }] : []))
  const after = <S extends Stretch>(all: readonly S[]): S[] =>
    all.flatMap((s) => (s.toM > atM ? [{ ...s, fromM: Math.max(0, s.fromM - atM), toM: s.toM - atM }] : []))
  return [
    { noChange: before(noChange), halts: before(halts) },
    { noChange: after(noChange), halts: after(halts) },
  ]
}

/** What is said of two lanes of which the second goes on so far along the first; what was cut there is one again. */
export function joinedStretches(first: Stretches, second: Stretches, atM: number): Stretches {
  const joined = <S extends Stretch>(a: readonly S[], b: readonly S[]): S[] => {
    const all = a.map((s) => ({ ...s }))
    for (const s of b) {
      const moved = { ...s, fromM: s.fromM + atM, toM: s.toM + atM }
      const whole = all.findIndex((o) => Math.abs(o.toM - moved.fromM) < 1e-6 && Math.abs(o.toM - atM) < 1e-6 && sameValue({ ...o, fromM: 0, toM: 0 }, { ...moved, fromM: 0, toM: 0 })) // prettier-ignore
      if (whole >= 0) all[whole] = { ...all[whole], toM: moved.toM }
      else all.push(moved)
    }
    return all
  }
  return { noChange: joined(first.noChange, second.noChange), halts: joined(first.halts, second.halts) }
}

/** Turn several routes round at once, as lanes that were drawn backwards. */
export const reverseRoutes = defineChanges<{ routeIds: readonly string[] }>(
  (_level, { routeIds }) => `Turn ${routeIds.length} routes round`,
  (changes, { routeIds }, base) => {
    for (const id of routeIds) {
      const route = base.routes[id]
      if (!route) continue
      changes.set(['routes', id, 'order'], [...route.order].reverse())
      const turned = turnedStretches(route, base.waypoints)
      for (const key of ['noChange', 'halts'] as const)
        if (route[key].length > 0) changes.set(['routes', id, key], turned[key])
    }
  },
)

export const setTravel = defineEdit<{ routeId: string; travel: TravelMode }>(
  (level, { routeId, travel }) => `Travel ${routeName(level, routeId)} ${travel.replaceAll('-', ' ')}`,
  (draft, { routeId, travel }) => {
    if (draft.routes[routeId]) draft.routes[routeId].travel = travel
  },
)

type StopValues = Partial<Omit<Stop, 'waypointId'>>

/** Set some properties of stops, by their routes; stops that no longer exist are passed over. */
export const changeStops = defineChanges<{
  stops: Readonly<Record<string, readonly string[]>>
  /** For all of them, or for each by what it is. */
  set: StopValues | ((stop: Stop) => StopValues)
}>(
  (level, { stops }) => {
    const [routeId, ...more] = Object.keys(stops)
    return `Change stops of ${more.length > 0 ? `${more.length + 1} routes` : routeName(level, routeId)}`
  },
  (changes, { stops, set }, base) => {
    for (const [routeId, stopIds] of Object.entries(stops))
      for (const stopId of stopIds) {
        const stop = base.routes[routeId]?.stops[stopId]
        if (!stop) continue
        const values = typeof set === 'function' ? set(stop) : set
        changes.assign(['routes', routeId, 'stops', stopId], values)
      }
  },
)
