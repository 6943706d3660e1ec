import { distanceToSegment } from './polygon'
import { distance2, mix3, type Point3 } from './vector'

/** Length over the map, metres. */
export function lengthOf(line: readonly (readonly number[])[]): number {
  let sum = 0
  for (let i = 1; i < line.length; i++) sum += distance2(line[i - 1], line[i])
  return sum
}

/** Sum of all height gained along the line, metres. */
export function climbOf(line: readonly Point3[]): number {
  let sum = 0
  for (let i = 1; i < line.length; i++) sum += Math.max(0, line[i][2] - line[i - 1][2])
  return sum
}

/** Distance over the map from a place to the nearest point of the line, metres. Infinity for an empty line. */
export function distanceToLine(line: readonly (readonly number[])[], x: number, y: number): number {
  if (line.length === 1) return distance2(line[0], [x, y])
  let best = Infinity
  for (let i = 1; i < line.length; i++) {
    best = Math.min(best, distanceToSegment(x, y, line[i - 1][0], line[i - 1][1], line[i][0], line[i][1]))
  }
  return best
}

/** The place a given distance along the line, clamped to its ends. */
export function pointAlong(line: readonly Point3[], distanceM: number): Point3 {
  let left = distanceM
  for (let i = 1; i < line.length; i++) {
    const step = distance2(line[i - 1], line[i])
    if (left <= step && step > 0) return mix3(line[i - 1], line[i], Math.max(0, left) / step)
    left -= step
  }
  return line[line.length - 1]
}
