import { boxOf, type Box2 } from '@tidytrail/core/geometry'
import { outlineOf } from '@tidytrail/core/ground'
import type { Level } from '@tidytrail/core/level'
import { shallowRef } from 'vue'

/** A wish to see something, which the sheet grants: a thing by its id, or a place. */
export const zoomWish = shallowRef<{ id?: string; at?: readonly number[]; n: number }>({ n: 0 })

export const requestZoom = (id: string) => (zoomWish.value = { id, n: zoomWish.value.n + 1 })
export const requestPlace = (at: readonly number[]) => (zoomWish.value = { at, n: zoomWish.value.n + 1 })

/** Room round what is shown, metres: less round what is large itself. */
const ROOM_M = 8

/** The part of the map that shows a thing. */
export function viewOfThing(level: Level, id: string): Box2 | undefined {
  const points = outlineOf(level, id)
  return points.length > 0 ? boxOf(points, points.length > 1 ? ROOM_M : ROOM_M * 2) : undefined
}
