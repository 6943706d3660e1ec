import type { Level } from '@tidytrail/core/level'
import { nextStop } from './legs'

/** One of the ways that part at a waypoint: a one-way link, or the lane itself going on. */
export interface ForkWay {
  /** Null for the lane itself. */
  readonly linkId: string | null
  /** The lane that goes on; null for a link. */
  readonly routeId: string | null
  readonly toId: string
  /** Beside those of the other ways. A lane that goes on counts as one. */
  readonly share: number
}

/** The share of a lane that goes on, beside links that leave it. */
const GOES_ON = 1

/** Waypoints that one-way links leave, with all ways that part there. One way alone is no fork, but a way on. */
export function forksOf({ links, routes }: Pick<Level, 'links' | 'routes'>): ReadonlyMap<string, readonly ForkWay[]> {
  const ways = new Map<string, ForkWay[]>()
  for (const linkId of Object.keys(links).sort()) {
    const { fromId, toId, twoWay, share } = links[linkId]
    if (twoWay) continue
    const way = { linkId, routeId: null, toId, share }
    const list = ways.get(fromId)
    if (list) list.push(way)
    else ways.set(fromId, [way])
  }
  if (ways.size === 0) return ways
  for (const routeId of Object.keys(routes).sort()) {
    const route = routes[routeId]
    if (route.kind !== 'lane') continue
    route.order.forEach((stopId, k) => {
      const next = nextStop(route, k, 1)
      const list = ways.get(route.stops[stopId].waypointId)
      if (!list || !next || (route.travel !== 'round' && next.to < k)) return
      list.push({ linkId: null, routeId, toId: route.stops[route.order[next.to]].waypointId, share: GOES_ON })
    })
  }
  return ways
}

/** All shares of a fork together. */
export const sharesOf = (ways: readonly ForkWay[]): number => ways.reduce((sum, w) => sum + w.share, 0)
