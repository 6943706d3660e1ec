import type { Point3 } from '@tidytrail/core/geometry'
import type { ReachMap } from '@tidytrail/core/reach'
import type { Fix } from './fix'

/** How far a fix may move something, metres. */
export const MOST_MOVED_M = 15
/** Islands tried beside the nearest. */
const MOST_ISLANDS = 2

/** A fix that moves a thing to the nearest place a profile can stand, on a given island when one is asked for. */
export function moveToReach(map: ReachMap, id: string, what: string, at: Point3, island = -1): { fix?: Fix } {
  const fix = move(map, id, what, at, island, '')
  return fix ? { fix } : {}
}

/**
 * Moves to the nearest place a profile can stand, and beside it to the nearest one from where it can get to what it has
 * to do with: what is nearest may be on top of something nobody gets up to.
 * @param others islands things lie on that it has to do with, most of them first
 */
export function movesToReach(
  map: ReachMap,
  id: string,
  what: string,
  at: Point3,
  others: readonly (number | undefined)[],
): { fix?: Fix; ways?: readonly Fix[] } {
  const near = move(map, id, what, at, -1, '')
  const islands = [...new Set(others)].filter((n) => n !== undefined).slice(0, MOST_ISLANDS)
  const ways = islands.flatMap((n) => move(map, id, what, at, n, ' beside the others') ?? [])
  const other = (fix: Fix) => JSON.stringify(fix.args) !== JSON.stringify(near?.args)
  return near ? { fix: near, ways: ways.filter(other) } : {}
}

function move(
  map: ReachMap,
  id: string,
  what: string,
  [x, y, z]: Point3,
  island: number,
  where: string,
): Fix | undefined {
  const near = map.nearestReached(x, y, z, MOST_MOVED_M, island)
  if (!near) return undefined
  const to = near.at.map((v) => Math.round(v * 1000) / 1000) as unknown as Point3
  const m = Math.sqrt((to[0] - x) ** 2 + (to[1] - y) ** 2)
  return {
    label: `Move ${what} ${m.toFixed(1)} m to where it can be reached${where}`,
    edit: 'movePlaces',
    args: { places: { [id]: to } },
  }
}
