import { exact } from '@tidytrail/core/geometry'
import type { Level } from './schema'
import { turnedBy } from './transform'

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
  const turned = (rad: number) => turnedBy({ turnRad, mirror }, rad)
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
