import { exact, type Point3 } from '@tidytrail/core/geometry'
import { circleM, type MeasuredLine } from './measured-line'

/** A bend of a line that a body cannot follow. Metres. */
export interface TightBend {
  readonly at: Point3
  /** Its radius; at a corner that of the circle that keeps within the room there. */
  readonly radiusM: number
}

/** A bend is told as too tight when it is by more than this share. */
const SHARE = 0.02

/**
 * The tightest bend of a line that a body cannot go round without leaving it: where the circle through three places that
 * follow each other is smaller than the body can turn, or a corner cannot be rounded within the room beside the line.
 * @param roomM how far a body may be beside the line
 */
export function tightBend({ places }: MeasuredLine, turnM: number, roomM: number): TightBend | undefined {
  let worst: TightBend | undefined
  for (let k = 1; k + 1 < places.length; k++) {
    const [a, b, c] = [places[k - 1], places[k], places[k + 1]]
    const cross = (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0])
    const dot = (b[0] - a[0]) * (c[0] - b[0]) + (b[1] - a[1]) * (c[1] - b[1])
    const turned = Math.abs(exact.atan2(cross, dot))
    if (turned < 1e-6) continue
    // A circle along both sides that passes the corner so far inside of it.
    const cos = exact.cos(turned / 2)
    const cornerM = cos < 1 ? (roomM * cos) / (1 - cos) : Infinity
    const radiusM = Math.min(circleM(a, b, c), cornerM)
    if (radiusM < turnM * (1 - SHARE) && radiusM < (worst?.radiusM ?? Infinity)) worst = { at: b, radiusM }
  }
  return worst
}
