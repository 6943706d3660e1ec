import type { PathAnswer } from '@tidytrail/core/reach'

/** Length of a route's ways, metres; legs that cannot be walked count for nothing. */
export function walkedLength(ways: readonly PathAnswer[]): number {
  return ways.reduce((sum, way) => sum + (way.found ? way.lengthM : 0), 0)
}
