import { exact } from '@tidytrail/core/geometry'
import { nearest } from './free-parts'

/** How far outside the body's circle about a corner a path may bend, metres: little enough to pass a gap 2 cm wider. */
const OUTSIDE_M = 0.007
/** Ends of lines closer than this are one, metres. */
const SAME_M = 1e-6
/** Outlines that bend by less are straight, radians. */
const STRAIGHT_RAD = 2e-3

/** A square of floor, its exact lines (ax, ay, bx, by each), and the body's radius, metres. */
export interface CornerPlace {
  readonly x0: number
  readonly y0: number
  readonly sizeM: number
  readonly lines: Float64Array
  readonly count: number
  readonly radiusM: number
  /** What has to be free about a place. */
  readonly freeM: number
}

/** Takes a place a shortest path may bend at, and the directions along the obstacle's rounding into it and out of it. */
export type TakeCorner = (x: number, y: number, inX: number, inY: number, outX: number, outY: number) => void

/**
 * The places in a square at which a shortest path may bend round the end of a line: on a polygon of few corners about
 * the circle a body's middle keeps from that end, over the angles at which nothing of the outline is nearer.
 */
export function eachHeldCorner(place: CornerPlace, take: TakeCorner): void {
  const { x0, y0, sizeM, lines, count, radiusM, freeM } = place
  const nearM = radiusM + OUTSIDE_M + sizeM * Math.SQRT1_2
  const farM = Math.max(0, freeM - sizeM * Math.SQRT1_2)
  const mx = x0 + sizeM / 2
  const my = y0 + sizeM / 2
  for (let e = 0; e < count * 2; e++) {
    const vx = lines[e * 2]
    const vy = lines[e * 2 + 1]
    const d2 = (vx - mx) * (vx - mx) + (vy - my) * (vy - my)
    if (d2 > nearM * nearM || d2 < farM * farM || metBefore(lines, e)) continue
    const cone = openAngles(lines, count, vx, vy)
    if (!cone || cone.wide < STRAIGHT_RAD) continue
    const pieces = Math.max(1, Math.ceil(cone.wide / (2 * Math.sqrt((2 * OUTSIDE_M) / radiusM))))
    const half = cone.wide / pieces / 2
    const outM = radiusM / exact.cos(half)
    for (let k = 0; k < pieces; k++) {
      const at = cone.from + half * (2 * k + 1)
      const x = vx + outM * exact.cos(at)
      const y = vy + outM * exact.sin(at)
      if (!(x >= x0 && y >= y0 && x < x0 + sizeM && y < y0 + sizeM)) continue
      if (nearest(lines, count, x, y) < freeM) continue
      // Clockwise round the end, which then lies to the right.
      take(x, y, exact.sin(at + half), -exact.cos(at + half), exact.sin(at - half), -exact.cos(at - half))
    }
  }
}

function metBefore(lines: Float64Array, e: number): boolean {
  for (let p = 0; p < e; p++) {
    if (Math.abs(lines[p * 2] - lines[e * 2]) < SAME_M && Math.abs(lines[p * 2 + 1] - lines[e * 2 + 1]) < SAME_M)
      return true
  }
  return false
}

/** The angles about an end at which no line that ends there is nearer than the end itself; undefined when there are none. */
function openAngles(
  lines: Float64Array,
  count: number,
  vx: number,
  vy: number,
): { from: number; wide: number } | undefined {
  let from = 0
  let wide = 2 * Math.PI
  for (let e = 0; e < count * 2; e++) {
    if (Math.abs(lines[e * 2] - vx) >= SAME_M || Math.abs(lines[e * 2 + 1] - vy) >= SAME_M) continue
    const other = e % 2 === 0 ? e + 1 : e - 1
    const dx = lines[other * 2] - vx
    const dy = lines[other * 2 + 1] - vy
    if (dx * dx + dy * dy < SAME_M * SAME_M) continue
    // All directions at a right angle or more from the line.
    const start = exact.atan2(dy, dx) + Math.PI / 2
    if (wide > Math.PI + 1e-9) {
      from = start
      wide = Math.PI
      continue
    }
    let offset = start - from
    while (offset > Math.PI) offset -= 2 * Math.PI
    while (offset <= -Math.PI) offset += 2 * Math.PI
    const low = Math.max(0, offset)
    const high = Math.min(wide, offset + Math.PI)
    if (high <= low) return undefined
    from += low
    wide = high - low
  }
  return { from, wide }
}
