import { defineChanges, defineEdit } from '../edit'
import { MOST_HALTS, MOST_NO_CHANGE, type Route, type Stop } from '../kinds'
import type { Level } from '../schema'
import { sameValue } from '../units'
import { dropUnused, takeStops } from './parts'
import { plainStop } from '../plain'
import { cutStretches, joinedStretches, straightM, turnedStretches } from './route'

const name = (level: Level, id: string) => level.routes[id]?.name ?? 'route'

/** All of a route but its stops, for a new one that is to be like it. */
function likeness(route: Route, called: string): Route {
  return { ...route, name: called, stops: {}, order: [], linkIds: [], noChange: [], halts: [], tags: [...route.tags] }
}

const saysNothing = (stop: Stop) => sameValue(stop, plainStop(stop.waypointId))

/**
 * Cut a route in two at a stop that is not an end: what follows becomes a route of its own, and both have the waypoint.
 * A round is opened there instead, so that it begins and ends at the stop.
 * @param newRouteId, newStopId: ids for what is made
 */
export const splitRoute = defineEdit<{
  routeId: string
  stopId: string
  newRouteId: string
  newStopId: string
  newName: string
}>(
  (level, { routeId }) => `Split ${name(level, routeId)}`,
  (draft, { routeId, stopId, newRouteId, newStopId, newName }) => {
    const route = draft.routes[routeId]
    const at = route?.order.indexOf(stopId) ?? -1
    if (at < 0) return
    const stop = route.stops[stopId]
    if (route.travel === 'round') {
      const wholeM = straightM(route, draft.waypoints)
      const cutM = straightM({ ...route, travel: 'one-way', order: route.order.slice(0, at + 1) }, draft.waypoints)
      const [before, after] = cutStretches(route, cutM)
      Object.assign(route, joinedStretches(after, before, wholeM - cutM))
      route.stops[newStopId] = { ...stop }
      route.order = [...route.order.slice(at), ...route.order.slice(0, at), newStopId]
      route.travel = 'one-way'
      return
    }
    if (at === 0 || at === route.order.length - 1) return
    const second = likeness(route as Route, newName)
    const cutM = straightM({ ...route, order: route.order.slice(0, at + 1) }, draft.waypoints)
    const [first, rest] = cutStretches(route, cutM)
    Object.assign(route, first)
    Object.assign(second, rest)
    second.stops[newStopId] = { ...stop }
    second.order = [newStopId, ...route.order.slice(at + 1)]
    for (const id of route.order.slice(at + 1)) {
      second.stops[id] = route.stops[id]
      delete route.stops[id]
    }
    route.order = route.order.slice(0, at + 1)
    draft.routes[newRouteId] = second
  },
)

/**
 * Make one route of two, the second's stops after the first's, with each turned as told. Where they meet in the same
 * waypoint one stop of the two is kept. Who followed the second follows the first; a second joined to itself closes.
 */
export const joinRoutes = defineEdit<{
  routeId: string
  otherId: string
  reverse?: boolean
  reverseOther?: boolean
}>(
  (level, { routeId, otherId }) => `Join ${name(level, otherId)} to ${name(level, routeId)}`,
  (draft, { routeId, otherId, reverse = false, reverseOther = false }) => {
    const route = draft.routes[routeId]
    const other = draft.routes[otherId]
    if (!route || !other) return
    // More than one lane may have is not joined, so that nothing of it is lost.
    const halts = route.halts.length + other.halts.length
    const kepts = route.noChange.length + other.noChange.length
    if (routeId !== otherId && (halts > MOST_HALTS || kepts > MOST_NO_CHANGE)) return
    if (reverse) {
      route.order.reverse()
      Object.assign(route, turnedStretches(route, draft.waypoints))
    }
    if (routeId === otherId) {
      const [first, last] = [route.order[0], route.order[route.order.length - 1]]
      if (route.order.length > 2 && route.stops[first].waypointId === route.stops[last].waypointId) {
        delete route.stops[last]
        route.order.pop()
      }
      route.travel = 'round'
      return
    }
    const added = [...other.order]
    if (reverseOther) added.reverse()
    const beforeM = straightM({ ...route, travel: 'one-way' }, draft.waypoints)
    const kept = reverseOther ? turnedStretches(other, draft.waypoints) : other
    Object.assign(route, joinedStretches(route, kept, beforeM))
    const last = route.order.at(-1)
    if (last && added[0] && route.stops[last].waypointId === other.stops[added[0]].waypointId) {
      const meeting = other.stops[added.shift()!]
      // What was said of either stop is kept; the first's word counts where both say something.
      if (saysNothing(route.stops[last])) Object.assign(route.stops[last], meeting)
    }
    for (const id of added) route.stops[id] = other.stops[id]
    route.order.push(...added)
    route.linkIds.push(...other.linkIds.filter((l) => !route.linkIds.includes(l)))
    if (route.travel === 'round') route.travel = 'one-way'
    for (const brief of Object.values(draft.briefs)) {
      for (const step of Object.values(brief.steps)) {
        if (step.kind === 'follow-route' && step.routeId === otherId) step.routeId = routeId
      }
    }
    for (const junction of Object.values(draft.junctions)) {
      junction.laneIds = [...new Set(junction.laneIds.map((l) => (l === otherId ? routeId : l)))]
    }
    delete draft.routes[otherId]
  },
)

/**
 * Close a route at its first stop: the last one, which lies at the same place, goes, and the route goes round. What was
 * said of either stop is kept; the first's word counts where both say something.
 */
export const closeAtStart = defineChanges<{ routeId: string }>(
  (level, { routeId }) => `Close ${name(level, routeId)}`,
  (changes, { routeId }, base) => {
    const route = base.routes[routeId]
    if (!route || route.order.length < 3) return
    const [first, last] = [route.order[0], route.order[route.order.length - 1]]
    const { waypointId } = route.stops[first]
    const gone = route.stops[last]
    if (saysNothing(route.stops[first])) changes.set(['routes', routeId, 'stops', first], { ...gone, waypointId })
    takeStops(changes, routeId, new Set([last]))
    changes.set(['routes', routeId, 'travel'], 'round')
    dropUnused(changes, [gone.waypointId])
  },
)

/** Take stops that follow one another out as a new route; the rest heals over the gap. */
export const extractStops = defineEdit<{
  routeId: string
  stopIds: readonly string[]
  newRouteId: string
  newName: string
}>(
  (level, { routeId, stopIds }) => `Take ${stopIds.length} stops out of ${name(level, routeId)} as a new route`,
  (draft, { routeId, stopIds, newRouteId, newName }) => {
    const route = draft.routes[routeId]
    if (!route) return
    const wanted = new Set(stopIds)
    const taken = route.order.filter((s) => wanted.has(s))
    if (taken.length === 0) return
    const made = likeness(route as Route, newName)
    if (made.travel === 'round') made.travel = 'one-way'
    made.order = taken
    for (const id of taken) {
      made.stops[id] = route.stops[id]
      delete route.stops[id]
    }
    route.order = route.order.filter((s) => !wanted.has(s))
    draft.routes[newRouteId] = made
  },
)

/** Let a round begin at another of its stops. */
export const turnStart = defineEdit<{ routeId: string; stopId: string }>(
  (level, { routeId }) => `Let ${name(level, routeId)} begin elsewhere`,
  (draft, { routeId, stopId }) => {
    const route = draft.routes[routeId]
    const at = route?.order.indexOf(stopId) ?? -1
    if (at > 0) route.order = [...route.order.slice(at), ...route.order.slice(0, at)]
  },
)

/** Put the stops named first, in that order, from a position on; the others keep theirs. Unknown ids are passed over. */
export const orderStops = defineEdit<{ routeId: string; stopIds: readonly string[]; from?: number }>(
  (level, { routeId }) => `Reorder the stops of ${name(level, routeId)}`,
  (draft, { routeId, stopIds, from = 0 }) => {
    const route = draft.routes[routeId]
    if (!route) return
    const named = [...new Set(stopIds)].filter((s) => route.stops[s])
    const rest = route.order.filter((s) => !named.includes(s))
    rest.splice(Math.max(0, Math.min(from, rest.length)), 0, ...named)
    route.order = rest
  },
)

/** Let two stops change places. */
export const swapStops = defineEdit<{ routeId: string; stopIds: readonly [string, string] }>(
  (level, { routeId }) => `Swap two stops of ${name(level, routeId)}`,
  (draft, { routeId, stopIds: [a, b] }) => {
    const route = draft.routes[routeId]
    const i = route?.order.indexOf(a) ?? -1
    const j = route?.order.indexOf(b) ?? -1
    if (i < 0 || j < 0) return
    route.order[i] = b
    route.order[j] = a
  },
)

/** Let a route visit another waypoint at a stop; the old one goes when nothing else uses it. */
export const retargetStop = defineChanges<{ routeId: string; stopId: string; waypointId: string }>(
  (level, { routeId }) => `Move a stop of ${name(level, routeId)} to another waypoint`,
  (changes, { routeId, stopId, waypointId }, base) => {
    const stop = base.routes[routeId]?.stops[stopId]
    if (!stop || !base.waypoints[waypointId] || stop.waypointId === waypointId) return
    changes.set(['routes', routeId, 'stops', stopId, 'waypointId'], waypointId)
    dropUnused(changes, [stop.waypointId])
  },
)
