import type { Point3 } from '@tidytrail/core/geometry'
import { whyNotHere } from '@tidytrail/core/reach'
import type { Look } from '../check'

/** How far beyond where a walk stops it is asked what is there, metres. */
const BEYOND_M = [0.02, 0.1, 0.3, 0.6]

/** What stops a straight walk, asked of the places just beyond where it ends. */
export function inTheWay(look: Look, profileId: string, at: Point3, to: Point3): string {
  const map = look.reach.map(profileId, at, 1)
  const length = Math.sqrt((to[0] - at[0]) ** 2 + (to[1] - at[1]) ** 2)
  for (const m of BEYOND_M) {
    if (!map || m > length) break
    const why = whyNotHere(map, [at[0] + ((to[0] - at[0]) * m) / length, at[1] + ((to[1] - at[1]) * m) / length, at[2]])
    if (why) return `it gets to where it is ${why}`
  }
  return 'the floor ends, or is another one there'
}
