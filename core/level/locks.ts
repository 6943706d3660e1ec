import { pointerKeys, type PatchOp } from './pointer'
import type { Collection, Level } from './schema'

/** What may be changed of a thing that is locked. */
const FREE = new Set(['locked', 'hidden'])

/** What keeps a patch from being made: something locked, or the road that lays what would be changed. */
export interface Lock {
  readonly in: Collection
  readonly id: string
  /** It is not locked itself, but lays the lane that would be changed. */
  readonly lays?: true
}

/** What of a lane is not laid by its road, and may be changed by itself. */
const OWN = new Set([
  'name',
  'speedLimitMps',
  'noChange',
  'halts',
  'profileIds',
  'nobody',
  'tags',
  'note',
  'colour',
  'pattern',
  'tension',
  'atEnd',
])

/** Is it of the lane alone, or of what is told at one of its stops? */
const isOwn = ([key, , part]: readonly string[]): boolean =>
  OWN.has(key) || (key === 'stops' && part !== undefined && part !== 'waypointId')

/**
 * What is locked in a level and would be changed or taken out by a patch: the thing itself, or the route a waypoint is
 * a stop of. Where a lane of a road lies is up to the road, unless the patch changes that as well. Undefined when
 * nothing is.
 */
export function lockedBy(before: Level, patch: readonly PatchOp[]): Lock | undefined {
  let routeOf: Map<string, string> | undefined
  const roads = layers(before, patch)
  for (const { op, path } of patch) {
    const [collection, id, ...rest] = pointerKeys(path) as [Collection, string | undefined, ...string[]]
    if (id === undefined) continue
    const thing = (before[collection] as unknown as Record<string, { locked?: boolean } | undefined>)[id]
    if (!thing || (rest.length > 0 && FREE.has(rest[0]))) continue
    if (thing.locked) return { in: collection, id }
    if (collection === 'routes') {
      const roadId = roads?.get(id)
      if (roadId && rest.length > 0 && !isOwn(rest)) return { in: 'roads', id: roadId, lays: true }
    }
    if (collection !== 'waypoints') continue
    routeOf ??= waypointsLocked(before)
    const routeId = routeOf.get(id)
    if (routeId) return { in: 'routes', id: routeId }
    const roadId = roads?.get(id)
    if (roadId && (op === 'remove' || rest[0] === 'at' || rest.length === 0))
      return { in: 'roads', id: roadId, lays: true }
  }
  return undefined
}

const known = new WeakMap<Level['roads'], { routes: Level['routes']; by: ReadonlyMap<string, string> }>()

/** The roads that lay lanes and waypoints, by these; without roads the patch changes as well. */
function layers(before: Level, patch: readonly PatchOp[]): ReadonlyMap<string, string> | undefined {
  const roadIds = Object.keys(before.roads)
  if (roadIds.length === 0 || patch.some(({ path }) => path === '/settings/drivesOn')) return undefined
  let all = known.get(before.roads)
  if (all?.routes !== before.routes) {
    const by = new Map<string, string>()
    for (const roadId of roadIds)
      for (const { laneId } of before.roads[roadId].lanes) {
        const route = laneId === null ? undefined : before.routes[laneId]
        if (!route) continue
        by.set(laneId!, roadId)
        for (const stopId of route.order) by.set(route.stops[stopId].waypointId, roadId)
      }
    known.set(before.roads, (all = { routes: before.routes, by }))
  }
  const changed = new Set(patch.flatMap(({ path }) => (path.startsWith('/roads/') ? [path.split('/', 3)[2]] : [])))
  if (changed.size === 0) return all.by
  return new Map([...all.by].filter(([, roadId]) => !changed.has(roadId)))
}

function waypointsLocked({ routes }: Level): Map<string, string> {
  const found = new Map<string, string>()
  for (const [id, route] of Object.entries(routes))
    if (route.locked) for (const stopId of route.order) found.set(route.stops[stopId].waypointId, id)
  return found
}
