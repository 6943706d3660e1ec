import { offsetRing, simplifyLine, type Point2, type Point3 } from '@tidytrail/core/geometry'

/** As few points of a line as keep it within a tolerance; the ends stay. For a closed one the first point stays. */
export function fewest<P extends readonly number[]>(line: readonly P[], toleranceM: number, closed = false): P[] {
  if (line.length < 3) return [...line]
  const points = closed ? [...line, line[0]] : line
  const kept = simplifyLine(
    points.flatMap((p) => [p[0], p[1]]),
    toleranceM,
  ).map((i) => points[i])
  if (closed) kept.pop()
  return kept
}

/**
 * A closed line round an outline (or inside it, for a negative distance), with as few places as keep it within the
 * tolerance.
 * @returns undefined when there is no room for one
 */
export function alongRing(ring: readonly Point2[], distanceM: number, toleranceM = 0.05): Point2[] | undefined {
  const [largest] = offsetRing(ring, distanceM)
  return largest && fewest(largest, toleranceM, true)
}

/** The corners of a way that was found, as few as matter; the ends of passages stay. */
export function alongWay(
  line: readonly Point3[],
  uses: readonly { readonly at: number }[],
  toleranceM: number,
): Point3[] {
  const fixed = new Set(uses.flatMap((u) => [u.at, u.at + 1]))
  const out: Point3[] = []
  let start = 0
  for (let i = 1; i < line.length; i++) {
    if (i < line.length - 1 && !fixed.has(i)) continue
    const part = fewest(line.slice(start, i + 1), toleranceM)
    out.push(...(out.length > 0 ? part.slice(1) : part))
    start = i
  }
  return line.length === 1 ? [...line] : out
}
