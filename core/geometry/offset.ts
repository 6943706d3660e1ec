import { EndType, inflatePathsD, JoinType } from 'clipper2-ts'
import { hypot } from './exact'
import { ringArea } from './polygon'
import type { Point2 } from './vector'

/** A corner is carried out to at most so many times the distance; a sharper one is cut off. */
const MOST_MITRE = 4
/** Digits after the point that offsets of rings are worked out with. */
const DIGITS = 4

/**
 * The rings at a distance from a closed outline, outside it for a positive distance and inside for a negative one, with
 * square corners. A ring may fall apart into several, or vanish.
 */
export function offsetRing(ring: readonly Point2[], distanceM: number): Point2[][] {
  const path = ring.map(([x, y]) => ({ x, y }))
  if (ringArea(ring) < 0) path.reverse()
  return inflatePathsD([path], distanceM, JoinType.Miter, EndType.Polygon, MOST_MITRE, DIGITS)
    .filter((p) => p.length >= 3)
    .map((p) => p.map(({ x, y }): Point2 => [x, y]))
    .sort((a, b) => Math.abs(ringArea(b)) - Math.abs(ringArea(a)))
}

/**
 * The line beside a line: every stretch moved sideways by the same distance, to the left of its direction when that is
 * positive, one point for every point. A corner so sharp that it would run off is cut short.
 */
export function besideLine(line: readonly (readonly number[])[], distanceM: number, closed = false): Point2[] {
  const n = line.length
  const normal = (i: number, j: number): Point2 | undefined => {
    const dx = line[j][0] - line[i][0]
    const dy = line[j][1] - line[i][1]
    const length = hypot(dx, dy)
    return length > 0 ? [-dy / length, dx / length] : undefined
  }
  /** The direction of the nearest stretch of any length before or after a point. */
  const search = (from: number, step: 1 | -1): Point2 | undefined => {
    for (let k = 0; k < n; k++) {
      const i = from + k * step
      const j = i + step
      if (!closed && (j < 0 || j >= n)) return undefined
      const [a, b] = [((i % n) + n) % n, ((j % n) + n) % n]
      const found = step === 1 ? normal(a, b) : normal(b, a)
      if (found) return found
    }
    return undefined
  }
  return line.map(([x, y], i) => {
    const before = search(i, -1)
    const after = search(i, 1)
    const a = before ?? after
    const b = after ?? before
    if (!a || !b) return [x, y]
    const dot = a[0] * b[0] + a[1] * b[1]
    const reach = Math.min(MOST_MITRE, 1 / Math.sqrt(Math.max(1e-9, (1 + dot) / 2)))
    const sx = a[0] + b[0]
    const sy = a[1] + b[1]
    const length = hypot(sx, sy)
    if (length < 1e-9) return [x + a[0] * distanceM, y + a[1] * distanceM]
    return [x + (sx / length) * distanceM * reach, y + (sy / length) * distanceM * reach]
  })
}
