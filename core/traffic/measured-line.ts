import { distance2, exact, simplifyLine, type Point3 } from '@tidytrail/core/geometry'

/** A line with the way to each of its places, metres over the map. Never changed once made. */
export interface MeasuredLine {
  readonly places: readonly Point3[]
  readonly s: Float64Array
  readonly lengthM: number
}

/** Places this near to the line between others say nothing, metres. */
const PLAIN_M = 0.002

/** A line with only the places it bends at: from others it strays by two millimetres at most. */
export function plainLine(line: readonly Point3[]): readonly Point3[] {
  if (line.length < 3) return line
  const flat = line.flatMap((p) => [p[0], p[1]])
  // Where it rises, places count by their height as well.
  const level = line.every((p) => p[2] === line[0][2])
  return level ? simplifyLine(flat, PLAIN_M).map((k) => line[k]) : line
}

const known = new WeakMap<readonly Point3[], MeasuredLine>()

/** Measures a line; places on the one before are left out. The same line is measured once. */
export function measured(line: readonly Point3[]): MeasuredLine {
  let found = known.get(line)
  if (found) return found
  const places = line.filter((p, i) => i === 0 || distance2(p, line[i - 1]) > 1e-9)
  const s = new Float64Array(places.length)
  for (let k = 1; k < places.length; k++) s[k] = s[k - 1] + distance2(places[k - 1], places[k])
  found = { places, s, lengthM: places.length > 0 ? s[places.length - 1] : 0 }
  known.set(line, found)
  return found
}

/** The piece a distance along a line lies on, by the number of its end: the first for what lies before, the last after. */
export function pieceAt({ s }: MeasuredLine, m: number): number {
  let low = 1
  let high = s.length - 1
  while (low < high) {
    const mid = (low + high) >> 1
    if (s[mid] < m) low = mid + 1
    else high = mid
  }
  return low
}

/** The place so far along a line, held to its ends. */
export function placeAt(line: MeasuredLine, m: number): Point3 {
  const { places, s } = line
  if (places.length < 2) return places[0]
  const k = pieceAt(line, m)
  const share = Math.min(1, Math.max(0, (m - s[k - 1]) / (s[k] - s[k - 1])))
  const [a, b] = [places[k - 1], places[k]]
  return [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share, a[2] + (b[2] - a[2]) * share]
}

/** The direction of a line so far along it, radians; 0 for a line that is a place. */
export function directionAt(line: MeasuredLine, m: number): number {
  const { places } = line
  if (places.length < 2) return 0
  const k = pieceAt(line, m)
  return exact.atan2(places[k][1] - places[k - 1][1], places[k][0] - places[k - 1][0])
}

/** Radius of the circle through three places, metres; Infinity where they lie in one line. */
export function circleM(a: Point3, b: Point3, c: Point3): number {
  const area2 = Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]))
  return area2 < 1e-12 ? Infinity : (distance2(a, b) * distance2(b, c) * distance2(c, a)) / (2 * area2)
}

/** The smallest radius of the bends of a line, metres: of circles through three places that follow one another. */
export function tightestM({ places }: MeasuredLine): number {
  let least = Infinity
  for (let k = 2; k < places.length; k++) least = Math.min(least, circleM(places[k - 2], places[k - 1], places[k]))
  return least
}
