import type { Point3 } from '@tidytrail/core/geometry'
import type { ReachMap } from '@tidytrail/core/reach'
import type { Fix } from './fix'

/** How far a fix may move something, metres. */
export const MOST_MOVED_M = 15

/** A fix that moves a thing to the nearest place a profile can stand, on a given island when one is asked for. */
export function moveToReach(map: ReachMap, id: string, what: string, [x, y, z]: Point3, island = -1): { fix?: Fix } {
  const near = map.nearestReached(x, y, z, MOST_MOVED_M, island)
  if (!near) return {}
  const to = near.at.map((v) => Math.round(v * 1000) / 1000) as unknown as Point3
  const m = Math.sqrt((to[0] - x) ** 2 + (to[1] - y) ** 2)
  return {
    fix: {
      label: `Move ${what} ${m.toFixed(1)} m to where it can be reached`,
      edit: 'movePlaces',
      args: { places: { [id]: to } },
    },
  }
}
