import { hypot } from './exact'
import { turn, type Point2 } from './vector'

/** Signed area in square metres: positive when the ring runs anticlockwise. */
export function ringArea(ring: readonly Point2[]): number {
  let twice = 0
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    twice += ring[j][0] * ring[i][1] - ring[i][0] * ring[j][1]
  }
  return twice / 2
}

/** Is the place inside the ring? Even-odd rule; a place on the edge may fall either way. */
export function ringHolds(ring: readonly Point2[], x: number, y: number): boolean {
  let inside = false
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const [xi, yi] = ring[i]
    const [xj, yj] = ring[j]
    if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) inside = !inside
  }
  return inside
}

/** Distance from a place to the nearest point of segment a–b, metres. */
export function distanceToSegment(x: number, y: number, ax: number, ay: number, bx: number, by: number): number {
  const dx = bx - ax
  const dy = by - ay
  const length2 = dx * dx + dy * dy
  const t = length2 > 0 ? Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / length2)) : 0
  return hypot(x - ax - t * dx, y - ay - t * dy)
}

/** Distance from a place to the ring's edge, metres, whether the place is inside or out. */
export function distanceToRing(ring: readonly Point2[], x: number, y: number): number {
  let best = Infinity
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    best = Math.min(best, distanceToSegment(x, y, ring[j][0], ring[j][1], ring[i][0], ring[i][1]))
  }
  return best
}

/** Does the ring cross itself? */
export const ringCrossesItself = (ring: readonly Point2[]): boolean => ringCrossing(ring) !== undefined

/**
 * Where the ring crosses itself first, or undefined when it does not. Sides are swept from west to east, so that only
 * those over one another are compared.
 */
export function ringCrossing(ring: readonly Point2[]): Point2 | undefined {
  const n = ring.length
  const next = (i: number) => ring[(i + 1) % n]
  const west = (i: number) => Math.min(ring[i][0], next(i)[0])
  const east = (i: number) => Math.max(ring[i][0], next(i)[0])
  const order = Array.from({ length: n }, (_, i) => i).sort((i, j) => west(i) - west(j))
  let open: number[] = []
  for (const i of order) {
    open = open.filter((j) => east(j) >= west(i))
    for (const j of open) {
      if ((i + 1) % n === j || (j + 1) % n === i) continue
      const a = ring[i]
      const b = next(i)
      const c = ring[j]
      const d = next(j)
      const abc = turn(a, b, c)
      const abd = turn(a, b, d)
      if (abc * abd >= 0 || turn(c, d, a) * turn(c, d, b) >= 0) continue
      const t = abc / (abc - abd)
      return [c[0] + (d[0] - c[0]) * t, c[1] + (d[1] - c[1]) * t]
    }
    open.push(i)
  }
  return undefined
}
