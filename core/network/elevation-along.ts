import { distance2, mix3, type Point3 } from '@tidytrail/core/geometry'
import { passageHeight, type FoundPath, type ReachMap } from '@tidytrail/core/reach'

/**
 * A way with the height of the floor it leads over, sampled about every so many metres: what is walked, where the way
 * itself has heights only at its corners.
 */
export function elevationAlong(
  map: ReachMap,
  line: readonly Point3[],
  everyM = 0.5,
  uses: FoundPath['uses'] = [],
): Point3[] {
  if (line.length === 0) return []
  const { stepM } = map.source
  const out: Point3[] = [line[0]]
  let z = line[0][2]
  for (let i = 1; i < line.length; i++) {
    const [ax, ay] = line[i - 1]
    const [bx, by, bz] = line[i]
    const use = uses.find((u) => u.at === i - 1)
    if (use) {
      for (let k = 1; k < 8; k++) {
        const [x, y] = mix3(line[i - 1], line[i], k / 8)
        out.push([x, y, passageHeight(use.kind, line[i - 1], line[i], k / 8)])
      }
      z = bz
      out.push([bx, by, bz])
      continue
    }
    const pieces = Math.max(1, Math.ceil(distance2(line[i - 1], line[i]) / everyM))
    for (let k = 1; k < pieces; k++) {
      const x = ax + ((bx - ax) * k) / pieces
      const y = ay + ((by - ay) * k) / pieces
      // The floor one steps on from the last place; steep floors may rise more than a step between two samples.
      const spot = map.floorAt(x, y, z, stepM + everyM)
      if (spot) z = map.zOf(spot)
      out.push([x, y, z])
    }
    z = bz
    out.push([bx, by, bz])
  }
  return out
}
