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

/** Does the ring cross itself? Quadratic, meant for hand-drawn rings. */
export function ringCrossesItself(ring: readonly Point2[]): boolean {
  const n = ring.length
  for (let i = 0; i < n; i++) {
    for (let j = i + 2; j < n; j++) {
      if (i === 0 && j === n - 1) continue
      const a = ring[i]
      const b = ring[i + 1]
      const c = ring[j]
      const d = ring[(j + 1) % n]
      if (turn(a, b, c) * turn(a, b, d) < 0 && turn(c, d, a) * turn(c, d, b) < 0) return true
    }
  }
  return false
}
