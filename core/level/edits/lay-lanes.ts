import type { Point3 } from '@tidytrail/core/geometry'
import type { Changes } from '../edit'
import type { Road, Route } from '../kinds'
import { laneLines, type RoadLane } from '../kinds/road/lines'
import { sameValue } from '../units'
import { plainRoute, plainStop } from '../plain'
import { visitReferences } from '../references'
import { dropUnused, removeLinks } from './parts'

/** What a lane takes over from its road whenever it is changed there. */
const TAKEN = ['speedLimitMps', 'profileIds', 'nobody', 'tags'] as const

/** What a lane is called by itself. */
const WORDS: Readonly<Record<string, string>> = { a: 'ahead', b: 'back', pl: 'pavement left', pr: 'pavement right' }
const laneName = (road: Pick<Road, 'name'>, key: string): string =>
  `${road.name} ${WORDS[key] ?? `${WORDS[key[0]]} ${key.slice(1)}`}`

/**
 * Lays the lanes of a road where they belong: those it has keep their ids, their ends and who follows them, new ones
 * are made, and those it has no more go unless somebody follows them. Their ids come from that of the road.
 */
export function layLanes(changes: Changes, roadId: string): void {
  const road = changes.level.roads[roadId]
  if (!road) return
  const before = changes.base.roads[roadId]
  const wanted = laneLines(road, changes.level.settings.drivesOn)
  // What is written to changes in place: what it was is held on to.
  const had = road.lanes
  const known = new Map(had.map(({ key, laneId }) => [key, laneId]))
  const lanes: Road['lanes'] = []
  for (const lane of wanted) {
    const laneId = known.get(lane.key)
    if (laneId === null) lanes.push({ key: lane.key, laneId })
    else lanes.push({ key: lane.key, laneId: layLane(changes, roadId, road, before, lane, laneId) })
  }
  const keys = new Set(lanes.map(({ key }) => key))
  if (!sameValue(lanes, had)) changes.set(['roads', roadId, 'lanes'], lanes)
  for (const { key, laneId } of had) if (!keys.has(key) && laneId) dropLane(changes, laneId)
}

/** A lane its road no longer has; one that is named by others stays, as a lane of its own. */
function dropLane(changes: Changes, laneId: string): void {
  const route = changes.level.routes[laneId]
  if (!route) return
  let named = false
  visitReferences([], changes.level, (to, id, at) => {
    if (to === 'routes' && id === laneId && !at().startsWith('roads.')) named = true
  })
  if (named) return
  const waypoints = route.order.map((s) => route.stops[s].waypointId)
  const gone = new Set(waypoints)
  changes.remove(['routes', laneId])
  const links = Object.entries(changes.level.links).filter(([, l]) => gone.has(l.fromId) || gone.has(l.toId))
  removeLinks(changes, new Set(links.map(([id]) => id)))
  dropUnused(changes, waypoints)
}

function layLane(
  changes: Changes,
  roadId: string,
  road: Road,
  before: Road | undefined,
  lane: RoadLane,
  laneId: string | undefined,
): string {
  const tail = `${roadId.slice(3)}${lane.key}`
  const has = laneId !== undefined && changes.level.routes[laneId] !== undefined
  const id = has ? laneId : free(changes, 'routes', `rt_${tail}`)
  if (!has) {
    const made: Route = {
      ...plainRoute(laneName(road, lane.key), 'lane'),
      use: lane.use,
      travel: lane.use === 'walk' ? 'there-and-back' : 'one-way',
      widthM: lane.widthM,
    }
    for (const key of TAKEN) Object.assign(made, { [key]: road[key] })
    changes.set(['routes', id], made)
  }
  const route = changes.level.routes[id]
  const curve = road.curve === 'smooth' ? 'smooth' : 'straight'
  if (route.widthM !== lane.widthM || route.curve !== curve)
    changes.assign(['routes', id], { widthM: lane.widthM, curve })
  if (has && before) {
    for (const key of TAKEN)
      if (!sameValue(before[key], road[key])) changes.assign(['routes', id], { [key]: road[key] })
    if (before.name !== road.name && route.name === laneName(before, lane.key))
      changes.set(['routes', id, 'name'], laneName(road, lane.key))
  }
  placeStops(changes, id, tail, lane.line)
  return id
}

/** Puts the stops of a lane along a line: the first and the last stay what they are, others come and go between. */
function placeStops(changes: Changes, laneId: string, tail: string, line: readonly Point3[]): void {
  const { stops, order } = changes.level.routes[laneId]
  const put = (waypointId: string, at: Point3) => {
    const waypoint = changes.level.waypoints[waypointId]
    if (!waypoint) changes.set(['waypoints', waypointId], { name: '', at: [...at], liftM: 0, markerId: null, tags: [] })
    else if (!sameValue(waypoint.at, at)) changes.set(['waypoints', waypointId, 'at'], [...at])
  }
  const count = line.length
  const kept = order.length < 2 ? [] : [...order.slice(0, Math.min(order.length, count) - 1), order[order.length - 1]]
  const gone = order.filter((s) => !kept.includes(s))
  const next: string[] = []
  for (let k = 0; k < count; k++) {
    const last = k === count - 1
    const stopId = last ? kept[kept.length - 1] : k < kept.length - 1 ? kept[k] : undefined
    if (stopId) {
      next.push(stopId)
      put(stops[stopId].waypointId, line[k])
      continue
    }
    const name = `${tail}${k === 0 ? 's' : last ? 'e' : `m${k}`}`
    const waypointId = free(changes, 'waypoints', `wp_${name}`)
    put(waypointId, line[k])
    const made = freeStop(changes, laneId, `st_${name}`)
    changes.set(['routes', laneId, 'stops', made], plainStop(waypointId))
    next.push(made)
  }
  if (!sameValue(next, order)) changes.list(['routes', laneId, 'order'], next)
  for (const stopId of gone) changes.remove(['routes', laneId, 'stops', stopId])
  dropUnused(
    changes,
    gone.map((s) => stops[s].waypointId),
  )
}

/** An id as it is, or with a number where something has it already. */
function free(changes: Changes, collection: 'routes' | 'waypoints', wanted: string): string {
  const taken = changes.level[collection]
  if (!Object.hasOwn(taken, wanted)) return wanted
  for (let n = 2; ; n++) if (!Object.hasOwn(taken, `${wanted}x${n}`)) return `${wanted}x${n}`
}
function freeStop(changes: Changes, laneId: string, wanted: string): string {
  const { stops } = changes.level.routes[laneId]
  if (!Object.hasOwn(stops, wanted)) return wanted
  for (let n = 2; ; n++) if (!Object.hasOwn(stops, `${wanted}x${n}`)) return `${wanted}x${n}`
}
