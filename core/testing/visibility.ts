import { ringHolds, segmentsMeet, type Point2 } from '@tidytrail/core/geometry'

/** A convex ring (anticlockwise) grown by a radius with round corners, each arc as chords that stay outside it. */
export function grownRing(ring: readonly Point2[], radiusM: number, stepsPerCorner = 8): Point2[] {
  const out: Point2[] = []
  const n = ring.length
  for (let i = 0; i < n; i++) {
    const [px, py] = ring[(i + n - 1) % n]
    const [x, y] = ring[i]
    const [nx, ny] = ring[(i + 1) % n]
    const start = Math.atan2(-(x - px), y - py)
    let sweep = Math.atan2(-(nx - x), ny - y) - start
    while (sweep < 0) sweep += 2 * Math.PI
    const reach = radiusM / Math.cos(sweep / stepsPerCorner / 2)
    for (let k = 0; k < stepsPerCorner; k++) {
      const a = start + (sweep * (k + 0.5)) / stepsPerCorner
      out.push([x + Math.cos(a) * reach, y + Math.sin(a) * reach])
    }
  }
  return out
}

/**
 * Length of the shortest path between two places among convex obstacles, exactly: Dijkstra over the full visibility
 * graph (Lozano-Pérez and Wesley 1979), every pair tested against every edge. Infinity when there is none.
 */
export function exactShortest(from: Point2, to: Point2, obstacles: readonly (readonly Point2[])[]): number {
  const shrink = (ring: readonly Point2[]): Point2[] => {
    const cx = ring.reduce((s, p) => s + p[0], 0) / ring.length
    const cy = ring.reduce((s, p) => s + p[1], 0) / ring.length
    return ring.map(([x, y]) => [cx + (x - cx) * (1 - 1e-7), cy + (y - cy) * (1 - 1e-7)])
  }
  const walls = obstacles.map(shrink)
  const boxes = walls.map((r) => [
    Math.min(...r.map((p) => p[0])),
    Math.min(...r.map((p) => p[1])),
    Math.max(...r.map((p) => p[0])),
    Math.max(...r.map((p) => p[1])),
  ])
  const blocked = (a: Point2, b: Point2): boolean =>
    walls.some((ring, w) => {
      const box = boxes[w]
      if (Math.max(a[0], b[0]) < box[0] || Math.min(a[0], b[0]) > box[2]) return false
      if (Math.max(a[1], b[1]) < box[1] || Math.min(a[1], b[1]) > box[3]) return false
      if (ringHolds(ring, (a[0] + b[0]) / 2, (a[1] + b[1]) / 2)) return true
      return ring.some((p, i) => segmentsMeet(a, b, p, ring[(i + 1) % ring.length]))
    })
  const places: Point2[] = [from, to, ...obstacles.flat()]
  const free = places.map((p) => !walls.some((ring) => ringHolds(ring, p[0], p[1])))
  const cost = places.map(() => Infinity)
  const done = places.map(() => false)
  cost[0] = 0
  for (;;) {
    let n = -1
    for (let k = 0; k < places.length; k++) if (!done[k] && cost[k] < (n < 0 ? Infinity : cost[n])) n = k
    if (n < 0 || n === 1) return cost[1]
    done[n] = true
    for (let m = 0; m < places.length; m++) {
      if (done[m] || !free[m]) continue
      const next = cost[n] + Math.hypot(places[m][0] - places[n][0], places[m][1] - places[n][1])
      if (next < cost[m] && !blocked(places[n], places[m])) cost[m] = next
    }
  }
}
