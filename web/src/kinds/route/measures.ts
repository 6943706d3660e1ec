import type { PathAnswer } from '@tidytrail/core/reach'

/** Length of a route's ways, metres; legs that cannot be walked count for nothing. */
export function walkedLength(paths: readonly PathAnswer[]): number {
  return paths.reduce((sum, path) => sum + (path.found ? path.lengthM : 0), 0)
}
