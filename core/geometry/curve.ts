import { distance3, mix3, type Point3 } from './vector'

export interface CurveOptions {
  readonly closed?: boolean
  /** 0 as round as it gets, 1 straight from point to point. */
  readonly tension?: number
  /** Points, by number, at which the line keeps its corner. */
  readonly sharp?: (n: number) => boolean
  /** About how far apart the places of the answer are, metres. */
  readonly everyM?: number
}

/** However long a piece is, it is drawn with no more places than this. */
const MOST_PIECES = 200

/**
 * A smooth line through points: centripetal Catmull–Rom, which makes no cusp and no loop between two points (Yuksel,
 * Schaefer and Keyser 2011). Points that coincide with the one before give a piece of one place, and the line is the same
 * as without them.
 * @returns for each piece from a point to the next the places from the one to the other, both among them
 */
export function smoothPieces(points: readonly Point3[], options: CurveOptions = {}): Point3[][] {
  const { closed = false, tension = 0, sharp = () => false, everyM = 0.5 } = options
  const n = points.length
  const pieces: Point3[][] = []
  const count = closed && n > 2 ? n : n - 1
  const at = (i: number): Point3 | undefined => (closed && n > 2 ? points[(i + n) % n] : points[i])
  /** The first point elsewhere that comes after a point, or before it; undefined where the line keeps its corner or ends. */
  const beyond = (i: number, step: 1 | -1): Point3 | undefined => {
    const here = at(i)!
    for (let k = 0; k < n; k++) {
      if (sharp((((i + k * step) % n) + n) % n)) return undefined
      const there = at(i + (k + 1) * step)
      if (!there || distance3(there, here) > 0) return there
    }
    return undefined
  }
  for (let i = 0; i < count; i++) {
    const p1 = at(i)!
    const p2 = at(i + 1)!
    const length = distance3(p1, p2)
    if (length === 0) {
      pieces.push([p1, p2])
      continue
    }
    // At an end and at a sharp corner the line goes on as it comes: the point beyond is the mirrored one.
    const p0 = neighbour(beyond(i, -1), p1, p2)
    const p3 = neighbour(beyond(i + 1, 1), p2, p1)
    const k = Math.min(MOST_PIECES, Math.max(tension >= 1 ? 1 : 4, Math.ceil(length / everyM)))
    const line: Point3[] = [p1]
    const give = 1 - tension
    const t0 = Math.sqrt(distance3(p0, p1))
    const t1 = Math.sqrt(length)
    const t2 = Math.sqrt(distance3(p2, p3))
    const a0 = slope(p0, p1, p2, t0, t1)
    const a1 = slope(p1, p2, p3, t1, t2)
    for (let j = 1; j < k; j++) {
      const s = j / k
      const s2 = s * s
      const s3 = s2 * s
      // The Hermite basis, drawn towards the straight line by the tension.
      const h1 = give * (3 * s2 - 2 * s3) + tension * s
      const g0 = give * t1 * (s3 - 2 * s2 + s)
      const g1 = give * t1 * (s3 - s2)
      line.push([
        p1[0] + h1 * (p2[0] - p1[0]) + g0 * a0[0] + g1 * a1[0],
        p1[1] + h1 * (p2[1] - p1[1]) + g0 * a0[1] + g1 * a1[1],
        p1[2] + h1 * (p2[2] - p1[2]) + g0 * a0[2] + g1 * a1[2],
      ])
    }
    line.push(p2)
    pieces.push(line)
  }
  return pieces
}

const neighbour = (given: Point3 | undefined, at: Point3, other: Point3): Point3 =>
  given && distance3(given, at) > 0 ? given : [2 * at[0] - other[0], 2 * at[1] - other[1], 2 * at[2] - other[2]]

/** The line's direction at the middle one of three points, for knots apart by the given steps. */
function slope(a: Point3, b: Point3, c: Point3, before: number, after: number): Point3 {
  const ka = 1 / before - 1 / (before + after)
  const kc = 1 / after - 1 / (before + after)
  return [
    kc * (c[0] - b[0]) + ka * (b[0] - a[0]),
    kc * (c[1] - b[1]) + ka * (b[1] - a[1]),
    kc * (c[2] - b[2]) + ka * (b[2] - a[2]),
  ]
}

/** Places about so far apart along a line, its ends among them; never farther apart than asked. */
export function spaced(line: readonly Point3[], everyM: number): Point3[] {
  if (line.length < 2) return [...line]
  const total = line.reduce((sum, p, i) => (i === 0 ? 0 : sum + distance3(line[i - 1], p)), 0)
  const steps = Math.max(1, Math.ceil(total / everyM - 1e-9))
  const out: Point3[] = [line[0]]
  let next = 1
  let done = 0
  for (let i = 1; i < line.length && next < steps; i++) {
    const length = distance3(line[i - 1], line[i])
    while (next < steps && done + length >= (total * next) / steps) {
      out.push(mix3(line[i - 1], line[i], length === 0 ? 0 : ((total * next) / steps - done) / length))
      next++
    }
    done += length
  }
  out.push(line[line.length - 1])
  return out
}
