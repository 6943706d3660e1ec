import { boxOf, growBox, type Box2 } from '@tidytrail/core/geometry'
import { footprint, terrainOf } from '@tidytrail/core/ground'
import type { Level } from '@tidytrail/core/level'
import { shallowRef } from 'vue'

/** A wish to see something, which the sheet grants: a thing by its id, or a place. */
export const zoomWish = shallowRef<{ id?: string; at?: readonly number[]; n: number }>({ n: 0 })

export const requestZoom = (id: string) => (zoomWish.value = { id, n: zoomWish.value.n + 1 })
export const requestPlace = (at: readonly number[]) => (zoomWish.value = { at, n: zoomWish.value.n + 1 })

const ROOM_M = 8

/** The part of the map that shows a thing. */
export function boxOfThing(level: Level, id: string): Box2 | undefined {
  if (level.solids[id]) return boxOf(footprint(level.solids[id]), ROOM_M)
  const ring = level.covers[id]?.ring ?? level.reachAreas[id]?.ring ?? level.zones[id]?.ring
  if (ring) return boxOf(ring, ROOM_M)
  if (level.passages[id]) return boxOf([level.passages[id].from, level.passages[id].to], ROOM_M)
  const mesh = level.meshes[id] && terrainOf(level).meshes.find((m) => m.id === id)
  if (mesh) return growBox(mesh.box, ROOM_M)
  const place = level.underlays[id] ?? level.posts[id] ?? level.markers[id]
  if (place) return boxOf([place.at], ROOM_M * 2)
  if (level.spawners[id]) return boxOf([level.spawners[id].at], ROOM_M * 2)
  const places = (routeId: string) =>
    level.routes[routeId].order.map((s) => level.waypoints[level.routes[routeId].stops[s].waypointId].at)
  if (level.routes[id]?.order.length > 0) return growBox(boxOf(places(id)), ROOM_M)
  if (level.waypoints[id]) return boxOf([level.waypoints[id].at], ROOM_M * 2)
  for (const route of Object.values(level.routes)) {
    if (route.stops[id]) return boxOf([level.waypoints[route.stops[id].waypointId].at], ROOM_M * 2)
  }
  return undefined
}
