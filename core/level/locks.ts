import { pointerKeys, type PatchOp } from './pointer'
import type { Collection, Level } from './schema'

/** What may be changed of a thing that is locked. */
const FREE = new Set(['locked', 'hidden'])

/**
 * What is locked in a level and would be changed or taken out by a patch: the thing itself, or the route a waypoint is
 * a stop of. Undefined when nothing is.
 */
export function lockedBy(before: Level, patch: readonly PatchOp[]): { in: Collection; id: string } | undefined {
  let routeOf: Map<string, string> | undefined
  for (const { path } of patch) {
    const [collection, id, ...rest] = pointerKeys(path) as [Collection, string | undefined, ...string[]]
    if (id === undefined) continue
    const thing = (before[collection] as unknown as Record<string, { locked?: boolean } | undefined>)[id]
    if (!thing || (rest.length > 0 && FREE.has(rest[0]))) continue
    if (thing.locked) return { in: collection, id }
    if (collection !== 'waypoints') continue
    routeOf ??= waypointsLocked(before)
    const routeId = routeOf.get(id)
    if (routeId) return { in: 'routes', id: routeId }
  }
  return undefined
}

function waypointsLocked({ routes }: Level): Map<string, string> {
  const found = new Map<string, string>()
  for (const [id, route] of Object.entries(routes))
    if (route.locked) for (const stopId of route.order) found.set(route.stops[stopId].waypointId, id)
  return found
}
