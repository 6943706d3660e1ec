import { boxOf } from '@tidytrail/core/geometry'
import {
  freshName,
  joinRoutes,
  reshape,
  reshaped,
  setTravel,
  splitRoute,
  extractStops,
  turnStart,
  type Level,
} from '@tidytrail/core/level'
import { useLevelStore } from '../../stores/level'
import { randomId } from '../../stores/random-id'
import { useSheetStore } from '../../stores/sheet'
import { toast } from '../../ui/toasts'

const waypointsOf = (level: Level, routeId: string) => {
  const route = level.routes[routeId]
  return [...new Set(route.order.map((s) => route.stops[s].waypointId))]
}

/** What can be done to the shape of a route with one press. */
export function useRouteShapes() {
  const levels = useLevelStore()
  const sheet = useSheetStore()
  return {
    split(routeId: string, stopId: string): void {
      const route = levels.doc.routes[routeId]
      const newRouteId = randomId('routes')
      const round = route.travel === 'round'
      const newName = freshName(levels.doc.routes, route.name.replace(/ \d+$/, ''))
      levels.perform(splitRoute, { routeId, stopId, newRouteId, newStopId: randomId('stops'), newName })
      if (round) sheet.choose([routeId])
      else if (levels.doc.routes[newRouteId]) sheet.choose([routeId, newRouteId])
      else toast('A route can be split only between its ends.')
    },
    extract(routeId: string, stopIds: readonly string[]): void {
      const newRouteId = randomId('routes')
      const { name } = levels.doc.routes[routeId]
      const newName = freshName(levels.doc.routes, name.replace(/ \d+$/, ''))
      levels.perform(extractStops, { routeId, stopIds, newRouteId, newName })
      sheet.choose([newRouteId])
    },
    /** Joins another route by the ends that lie nearest to one another. */
    join(routeId: string, otherId: string): void {
      const level = levels.doc
      const end = (id: string, last: boolean) => {
        const { order, stops } = level.routes[id]
        return level.waypoints[stops[last ? order[order.length - 1] : order[0]].waypointId].at
      }
      const paths = [false, true].flatMap((reverse) =>
        [false, true].map((reverseOther) => {
          const [a, b] = [end(routeId, !reverse), end(otherId, reverseOther)]
          return { reverse, reverseOther, m: Math.hypot(a[0] - b[0], a[1] - b[1]) }
        }),
      )
      const { reverse, reverseOther } = paths.sort((a, b) => a.m - b.m)[0]
      levels.perform(joinRoutes, { routeId, otherId, reverse, reverseOther })
      sheet.choose([routeId])
    },
    close: (routeId: string) => levels.perform(joinRoutes, { routeId, otherId: routeId }),
    open: (routeId: string) => levels.perform(setTravel, { routeId, travel: 'one-way' }),
    startAt: (routeId: string, stopId: string) => levels.perform(turnStart, { routeId, stopId }),
    turn(routeIds: readonly string[], set: { turnRad?: number; mirror?: boolean }, word: string): void {
      const level = levels.doc
      const ids = [...new Set(routeIds.flatMap((id) => waypointsOf(level, id)))]
      const box = boxOf(ids.map((id) => level.waypoints[id].at))
      const about = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2] as const
      levels.perform(reshape, { ...reshaped(level, ids, { about, ...set }), word })
    },
  }
}

/** The choices made from one thing: all of its route, every second of its stops, all of its kind, all it is connected to. */
export function useRouteSelection() {
  const levels = useLevelStore()
  const sheet = useSheetStore()
  return {
    everySecond(routeId: string): void {
      sheet.choose(levels.doc.routes[routeId].order.filter((_, i) => i % 2 === 0))
    },
    allStops: (routeId: string) => sheet.choose(levels.doc.routes[routeId].order),
    sameKind(routeId: string): void {
      const { kind } = levels.doc.routes[routeId]
      sheet.choose(Object.keys(levels.doc.routes).filter((r) => levels.doc.routes[r].kind === kind))
    },
    /** Routes that hang together with one by shared waypoints and links. */
    connected(routeId: string): void {
      const { routes, links } = levels.doc
      const at = new Map<string, Set<string>>()
      const note = (waypointId: string, route: string) =>
        at.set(waypointId, (at.get(waypointId) ?? new Set()).add(route))
      for (const [id, r] of Object.entries(routes)) for (const s of Object.values(r.stops)) note(s.waypointId, id)
      const linked = new Map<string, Set<string>>()
      for (const { fromId, toId } of Object.values(links)) {
        for (const [a, b] of [
          [fromId, toId],
          [toId, fromId],
        ])
          linked.set(a, (linked.get(a) ?? new Set()).add(b))
      }
      const found = new Set([routeId])
      for (const id of found) {
        for (const { waypointId } of Object.values(routes[id].stops)) {
          for (const other of at.get(waypointId) ?? []) found.add(other)
          for (const far of linked.get(waypointId) ?? []) for (const other of at.get(far) ?? []) found.add(other)
        }
      }
      sheet.choose([...found])
    },
  }
}
