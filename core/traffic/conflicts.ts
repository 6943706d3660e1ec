import { distance2, type Point3 } from '@tidytrail/core/geometry'
import { placeAt, type MeasuredLine } from './measured-line'

/** A stretch of a line, metres along it. */
export interface Stretch {
  readonly fromM: number
  readonly toM: number
}

/** What two ways do to each other: they cross, or the one comes into the other, or they part. */
export type ConflictKind = 'crossing' | 'merging' | 'parting'

/** A stretch of each of two ways on which bodies going along them would touch. */
export interface Conflict {
  readonly kind: ConflictKind
  readonly a: Stretch
  readonly b: Stretch
  /** Where they are nearest to each other: where they cross, or meet first. */
  readonly at: Point3
}

/** Ways as far above each other as this do not meet, metres. */
export const OVER_M = 2.5
/** Ends within this are one place, metres. */
const ONE_PLACE_M = 0.05
/** What is known to a centimetre is known well enough, metres. */
const FINE_M = 0.01

/**
 * The stretches of two ways on which bodies would touch: where their middles are nearer than a distance, such as half
 * the widths of both. Two ways may conflict several times. Worked out on the lines' pieces themselves: on each piece the
 * distance to another is convex along it, so that where it falls below is one span, whose ends are found by halving.
 * @param apartM bodies whose middles are so far apart do not touch
 */
export function conflictsOf(a: MeasuredLine, b: MeasuredLine, apartM: number): Conflict[] {
  const near = within(a, b, apartM)
  if (near.length === 0) return []
  const start = a.lengthM > 0 && b.lengthM > 0 && together(a.places[0], b.places[0])
  const end = together(a.places[a.places.length - 1], b.places[b.places.length - 1])
  const found: Conflict[] = []
  for (const span of near) {
    const part = partOf(a, span)
    for (const other of within(b, part, apartM)) {
      const kind: ConflictKind =
        start && span.fromM < FINE_M && other.fromM < FINE_M
          ? 'parting'
          : end && span.toM > a.lengthM - FINE_M && other.toM > b.lengthM - FINE_M
            ? 'merging'
            : 'crossing'
      found.push({ kind, a: span, b: other, at: nearestOn(part, partOf(b, other)) })
    }
  }
  return found
}

const kept = new WeakMap<MeasuredLine, WeakMap<MeasuredLine, { apartM: number; found: readonly Conflict[] }>>()

/** The same, worked out once for two lines: as long as neither changes the same objects are given. */
export function knownConflicts(a: MeasuredLine, b: MeasuredLine, apartM: number): readonly Conflict[] {
  let of = kept.get(a)
  if (!of) kept.set(a, (of = new WeakMap()))
  let known = of.get(b)
  if (known?.apartM !== apartM) of.set(b, (known = { apartM, found: conflictsOf(a, b, apartM) }))
  return known.found
}

const together = (p: Point3, q: Point3): boolean => distance2(p, q) < ONE_PLACE_M && Math.abs(p[2] - q[2]) < OVER_M

/** The spans of a line that are nearer to another line than a distance. */
function within(a: MeasuredLine, b: MeasuredLine, apartM: number): Stretch[] {
  const spans: Stretch[] = []
  const add = (fromM: number, toM: number) => {
    const last = spans[spans.length - 1]
    if (last && fromM <= last.toM + FINE_M)
      spans[spans.length - 1] = { fromM: last.fromM, toM: Math.max(last.toM, toM) }
    else spans.push({ fromM, toM })
  }
  for (let i = 1; i < a.places.length; i++) {
    const [p, q] = [a.places[i - 1], a.places[i]]
    const pieces: Stretch[] = []
    for (let j = 1; j < b.places.length; j++) {
      const [c, d] = [b.places[j - 1], b.places[j]]
      if (Math.max(p[0], q[0]) + apartM < Math.min(c[0], d[0]) || Math.min(p[0], q[0]) - apartM > Math.max(c[0], d[0]))
        continue
      if (Math.max(p[1], q[1]) + apartM < Math.min(c[1], d[1]) || Math.min(p[1], q[1]) - apartM > Math.max(c[1], d[1]))
        continue
      const span = pieceWithin(p, q, c, d, apartM)
      if (span) pieces.push(span)
    }
    pieces.sort((x, y) => x.fromM - y.fromM)
    const length = a.s[i] - a.s[i - 1]
    for (const { fromM, toM } of pieces) add(a.s[i - 1] + fromM * length, a.s[i - 1] + toM * length)
  }
  return spans
}

/** The shares along a piece between which it is nearer to another piece than a distance. */
function pieceWithin(p: Point3, q: Point3, c: Point3, d: Point3, apartM: number): Stretch | undefined {
  // How near a place of the piece is to the other: convex in the share, as the distance to a convex set.
  const [ux, uy, uz] = [d[0] - c[0], d[1] - c[1], d[2] - c[2]]
  const length2 = ux * ux + uy * uy
  const far = (t: number): number => {
    const x = p[0] + (q[0] - p[0]) * t
    const y = p[1] + (q[1] - p[1]) * t
    const share = length2 > 0 ? Math.min(1, Math.max(0, ((x - c[0]) * ux + (y - c[1]) * uy) / length2)) : 0
    const [ex, ey] = [c[0] + share * ux - x, c[1] + share * uy - y]
    return ex * ex + ey * ey
  }
  const most = apartM * apartM
  let [low, high] = [0, 1]
  for (let k = 0; k < 60 && high - low > 1e-7; k++) {
    const [m1, m2] = [low + (high - low) / 3, high - (high - low) / 3]
    if (far(m1) <= far(m2)) high = m2
    else low = m1
  }
  const t = (low + high) / 2
  if (far(t) >= most) return undefined
  const x = p[0] + (q[0] - p[0]) * t
  const y = p[1] + (q[1] - p[1]) * t
  const share = length2 > 0 ? Math.min(1, Math.max(0, ((x - c[0]) * ux + (y - c[1]) * uy) / length2)) : 0
  if (Math.abs(p[2] + (q[2] - p[2]) * t - (c[2] + uz * share)) >= OVER_M) return undefined
  const edge = (inside: number, outside: number): number => {
    if (far(outside) < most) return outside
    let [good, bad] = [inside, outside]
    while (Math.abs(bad - good) > 1e-7) {
      const mid = (good + bad) / 2
      if (far(mid) < most) good = mid
      else bad = mid
    }
    return good
  }
  return { fromM: edge(t, 0), toM: edge(t, 1) }
}

/** A stretch of a line as a line of its own. */
function partOf(line: MeasuredLine, { fromM, toM }: Stretch): MeasuredLine {
  const places: Point3[] = []
  const s: number[] = []
  const put = (p: Point3) => {
    const last = places[places.length - 1]
    if (last && distance2(last, p) < 1e-9) return
    s.push(places.length === 0 ? 0 : s[s.length - 1] + distance2(last, p))
    places.push(p)
  }
  put(placeAt(line, fromM))
  line.places.forEach((p, k) => line.s[k] > fromM && line.s[k] < toM && put(p))
  put(placeAt(line, toM))
  return { places, s: Float64Array.from(s), lengthM: s[s.length - 1] ?? 0 }
}

/** The place of the first line that is nearest to the second; where they cross, the crossing. */
function nearestOn(a: MeasuredLine, b: MeasuredLine): Point3 {
  let best = Infinity
  let at = a.places[0]
  for (let i = 1; i < a.places.length; i++) {
    const [p, q] = [a.places[i - 1], a.places[i]]
    for (let j = 1; j < b.places.length; j++) {
      const [c, d] = [b.places[j - 1], b.places[j]]
      const cross = (q[0] - p[0]) * (d[1] - c[1]) - (q[1] - p[1]) * (d[0] - c[0])
      if (Math.abs(cross) > 1e-12) {
        const t = ((c[0] - p[0]) * (d[1] - c[1]) - (c[1] - p[1]) * (d[0] - c[0])) / cross
        const u = ((c[0] - p[0]) * (q[1] - p[1]) - (c[1] - p[1]) * (q[0] - p[0])) / cross
        if (t >= 0 && t <= 1 && u >= 0 && u <= 1)
          return [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t, p[2] + (q[2] - p[2]) * t]
      }
      for (const place of [p, q]) {
        const [ux, uy] = [d[0] - c[0], d[1] - c[1]]
        const length2 = ux * ux + uy * uy
        const share =
          length2 > 0 ? Math.min(1, Math.max(0, ((place[0] - c[0]) * ux + (place[1] - c[1]) * uy) / length2)) : 0
        const far = distance2(place, [c[0] + share * ux, c[1] + share * uy])
        if (far < best) [best, at] = [far, place]
      }
    }
  }
  return at
}
