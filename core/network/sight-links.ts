import KDBush from 'kdbush'
import { distance2, type Point3 } from '@tidytrail/core/geometry'

/** More links than this are not made at once. */
export const MOST_LINKS = 200_000

/**
 * The pairs of places that see each other within a distance, nearest first for each.
 * @param sees can one walk straight from one to the other?
 * @returns number pairs, the smaller first, in ascending order
 * @throws RangeError when there would be more than MOST_LINKS to look at
 */
export function pairsInSight(
  places: readonly Point3[],
  withinM: number,
  sees: (a: Point3, b: Point3) => boolean,
): [number, number][] {
  if (places.length === 0) return []
  const index = new KDBush(places.length)
  for (const [x, y] of places) index.add(x, y)
  index.finish()
  const pairs: [number, number][] = []
  let looked = 0
  places.forEach(([x, y], a) => {
    for (const b of index.within(x, y, withinM).sort((p, q) => p - q)) {
      if (b <= a || distance2(places[a], places[b]) === 0) continue
      if (++looked > MOST_LINKS) throw new RangeError(`there are more than ${MOST_LINKS} pairs within ${withinM} m`)
      if (sees(places[a], places[b]) && sees(places[b], places[a])) pairs.push([a, b])
    }
  })
  return pairs
}
