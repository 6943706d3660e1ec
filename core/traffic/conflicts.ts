import { boxOf, distance2, type Point3 } from '@tidytrail/core/geometry'
import { OVER_M, placeAt, type MeasuredLine } from './measured-line'

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

/** Ends within this are one place, metres. */
const ONE_PLACE_M = 0.05
/** What is known to a centimetre is known well enough, metres. */
const FINE_M = 0.01

/**
 * The stretches of two ways on which bodies would touch: where their middles are nearer than a distance, such as half
 * the widths of both. Two ways may conflict several times. Worked out exactly on the lines' pieces themselves.
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
  const boxB = boxOf(b.places, apartM)
  for (let i = 1; i < a.places.length; i++) {
    const [p, q] = [a.places[i - 1], a.places[i]]
    const minX = Math.min(p[0], q[0])
    const maxX = Math.max(p[0], q[0])
    const minY = Math.min(p[1], q[1])
    const maxY = Math.max(p[1], q[1])
    if (maxX < boxB.minX || minX > boxB.maxX || maxY < boxB.minY || minY > boxB.maxY) continue
    const pieces: Stretch[] = []
    for (let j = 1; j < b.places.length; j++) {
      const c = b.places[j - 1]
      const d = b.places[j]
      if (maxX + apartM < Math.min(c[0], d[0]) || minX - apartM > Math.max(c[0], d[0])) continue
      if (maxY + apartM < Math.min(c[1], d[1]) || minY - apartM > Math.max(c[1], d[1])) continue
      const span = pieceWithin(p, q, c, d, apartM)
      if (span) pieces.push(span)
    }
    if (pieces.length === 0) continue
    pieces.sort((x, y) => x.fromM - y.fromM)
    const length = a.s[i] - a.s[i - 1]
    for (const piece of pieces) {
      const fromM = a.s[i - 1] + piece.fromM * length
      const toM = a.s[i - 1] + piece.toM * length
      const last = spans[spans.length - 1]
      if (last && fromM <= last.toM + FINE_M)
        spans[spans.length - 1] = { fromM: last.fromM, toM: Math.max(last.toM, toM) }
      else spans.push({ fromM, toM })
    }
  }
  return spans
}

/**
 * The shares along a piece between which it is nearer to another piece than a distance: where it is within that of
 * either end, or beside the piece itself. All together are one span, as the distance to a convex set is convex.
 */
function pieceWithin(p: Point3, q: Point3, c: Point3, d: Point3, apartM: number): Stretch | undefined {
  const [px, py] = [p[0], p[1]]
  const [vx, vy] = [q[0] - px, q[1] - py]
  const [ux, uy] = [d[0] - c[0], d[1] - c[1]]
  let low = Infinity
  let high = -Infinity
  const v2 = vx * vx + vy * vy
  if (v2 > 0)
    for (let end = 0; end < 2; end++) {
      const at = end === 0 ? c : d
      const ex = px - at[0]
      const ey = py - at[1]
      const half = ex * vx + ey * vy
      const root = half * half - v2 * (ex * ex + ey * ey - apartM * apartM)
      if (root <= 0) continue
      const wide = Math.sqrt(root)
      const from = Math.max(0, (-half - wide) / v2)
      const to = Math.min(1, (-half + wide) / v2)
      if (from >= to) continue
      low = Math.min(low, from)
      high = Math.max(high, to)
    }
  const length2 = ux * ux + uy * uy
  if (length2 > 0) {
    const reach = apartM * Math.sqrt(length2)
    let from = 0
    let to = 1
    // How far beside the other piece, and how far along it: both are straight in the share.
    for (let way = 0; way < 2; way++) {
      const at0 = way === 0 ? ux * (py - c[1]) - uy * (px - c[0]) : (px - c[0]) * ux + (py - c[1]) * uy
      const slope = way === 0 ? ux * vy - uy * vx : vx * ux + vy * uy
      const least = way === 0 ? -reach : 0
      const most = way === 0 ? reach : length2
      if (Math.abs(slope) < 1e-15) {
        if (at0 <= least || at0 >= most) to = -1
        continue
      }
      const m = (least - at0) / slope
      const n = (most - at0) / slope
      from = Math.max(from, Math.min(m, n))
      to = Math.min(to, Math.max(m, n))
    }
    if (from < to) {
      low = Math.min(low, from)
      high = Math.max(high, to)
    }
  }
  if (high <= low) return undefined
  // One over the other does not meet.
  const mid = (low + high) / 2
  const [x, y] = [px + vx * mid, py + vy * mid]
  const share = length2 > 0 ? Math.min(1, Math.max(0, ((x - c[0]) * ux + (y - c[1]) * uy) / length2)) : 0
  if (Math.abs(p[2] + (q[2] - p[2]) * mid - (c[2] + (d[2] - c[2]) * share)) >= OVER_M) return undefined
  return { fromM: low, toM: high }
}

/** A stretch of a line as a line of its own. */
export function partOf(line: MeasuredLine, { fromM, toM }: Stretch): MeasuredLine {
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
