import { boxOf, distance2, exact, mix3, simplifyLine, type Point3 } from '@tidytrail/core/geometry'

/** Ways as far above each other as this do not meet, metres. */
export const OVER_M = 2.5

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

/** The place of a line nearest to a place, as the map shows it: how far along the line it is, and how far from the place. Metres. */
export function nearestOnLine({ places, s }: MeasuredLine, [x, y]: Point3): { m: number; farM: number; at: Point3 } {
  let best = Infinity
  let m = 0
  let at = places[0]
  for (let k = 1; k < places.length; k++) {
    const [a, b] = [places[k - 1], places[k]]
    const dx = b[0] - a[0]
    const dy = b[1] - a[1]
    const length2 = dx * dx + dy * dy
    const share = length2 > 0 ? Math.min(1, Math.max(0, ((x - a[0]) * dx + (y - a[1]) * dy) / length2)) : 0
    const on = mix3(a, b, share)
    const far = distance2(on, [x, y])
    if (far >= best) continue
    best = far
    m = s[k - 1] + share * (s[k] - s[k - 1])
    at = on
  }
  return { m, farM: best, at }
}

/** Where two lines cross, as the map shows it and at about one height: how far along each, metres, and the sine of the angle between them. */
export interface Meeting {
  readonly aM: number
  readonly bM: number
  readonly sine: number
}

export function meetingsOf(a: MeasuredLine, b: MeasuredLine): Meeting[] {
  const found: Meeting[] = []
  const box = boxOf(b.places)
  for (let i = 1; i < a.places.length; i++) {
    const [p, q] = [a.places[i - 1], a.places[i]]
    if (Math.max(p[0], q[0]) < box.minX || Math.min(p[0], q[0]) > box.maxX) continue
    if (Math.max(p[1], q[1]) < box.minY || Math.min(p[1], q[1]) > box.maxY) continue
    for (let j = 1; j < b.places.length; j++) {
      const [c, d] = [b.places[j - 1], b.places[j]]
      const cross = (q[0] - p[0]) * (d[1] - c[1]) - (q[1] - p[1]) * (d[0] - c[0])
      const lengths = (a.s[i] - a.s[i - 1]) * (b.s[j] - b.s[j - 1])
      const sine = Math.abs(cross) / lengths
      if (sine < 1e-9) continue
      const t = ((c[0] - p[0]) * (d[1] - c[1]) - (c[1] - p[1]) * (d[0] - c[0])) / cross
      const u = ((c[0] - p[0]) * (q[1] - p[1]) - (c[1] - p[1]) * (q[0] - p[0])) / cross
      if (t < 0 || t > 1 || u < 0 || u > 1) continue
      if (Math.abs(p[2] + t * (q[2] - p[2]) - c[2] - u * (d[2] - c[2])) >= OVER_M) continue
      const aM = a.s[i - 1] + t * (a.s[i] - a.s[i - 1])
      const bM = b.s[j - 1] + u * (b.s[j] - b.s[j - 1])
      // A crossing at a bend is one of both its pieces.
      if (!found.some((f) => Math.abs(f.aM - aM) < 0.01 && Math.abs(f.bM - bM) < 0.01)) found.push({ aM, bM, sine })
    }
  }
  return found
}
