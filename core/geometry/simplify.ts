import { distanceToSegment } from './polygon'

/**
 * Which points of a line to keep so that no dropped point lies farther than the tolerance from what is left
 * (Douglas and Peucker 1973). The ends are always kept.
 * @param xy flat x, y pairs
 * @param toleranceM greatest distance, metres
 * @returns ascending point indexes
 */
export function simplifyLine(xy: ArrayLike<number>, toleranceM: number): number[] {
  const last = xy.length / 2 - 1
  if (last < 1) return last < 0 ? [] : [0]
  const keep = new Uint8Array(last + 1)
  keep[0] = keep[last] = 1
  const stack = [0, last]
  while (stack.length > 0) {
    const b = stack.pop()!
    const a = stack.pop()!
    let worst = toleranceM
    let at = -1
    for (let i = a + 1; i < b; i++) {
      const d = distanceToSegment(xy[2 * i], xy[2 * i + 1], xy[2 * a], xy[2 * a + 1], xy[2 * b], xy[2 * b + 1])
      if (d > worst) {
        worst = d
        at = i
      }
    }
    if (at >= 0) {
      keep[at] = 1
      stack.push(a, at, at, b)
    }
  }
  const kept: number[] = []
  for (let i = 0; i <= last; i++) if (keep[i]) kept.push(i)
  return kept
}
