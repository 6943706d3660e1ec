import { atan2, cos, hypot, sin, tan } from './exact'
import { lengthOf } from './polyline'
import type { Point3 } from './vector'

/** A place and the direction one comes through it in, radians, counterclockwise from east. */
export interface Directed {
  readonly at: Point3
  readonly rad: number
}

/** Two lines that cross at less than this have no corner to turn about, radians. */
const STRAIGHT_RAD = 0.03
/** Where the corner is nearer to one end than this share of how far it is from the other, the line begins to swing out. */
const UNEVEN = 0.2
/** However short or long, a turning line has so many places. */
const LEAST = 4
const MOST = 200

/**
 * A smooth line from one place to another that leaves and comes in along given directions: one cubic whose handles make
 * it an arc of a circle where the two lie evenly about the corner (to 0.03 % of the radius; Riškus 2006), and a smooth
 * shift where there is no corner between them. Heights rise evenly along it. One that has to pass the place and turn back
 * to it by more than a right angle is no line to drive along: it may have a cusp.
 * @param everyM about how far apart its places are, metres
 */
export function turningLine(from: Directed, to: Directed, everyM = 0.5): Point3[] {
  const [ax, ay, az] = from.at
  const [bx, by, bz] = to.at
  const apart = hypot(bx - ax, by - ay)
  if (apart < 1e-9) return [from.at, to.at]
  const [ux, uy] = [cos(from.rad), sin(from.rad)]
  const [vx, vy] = [cos(to.rad), sin(to.rad)]
  const angle = atan2(ux * vy - uy * vx, ux * vx + uy * vy)
  // Without a corner to turn about it swings out, the wider the more it has to turn.
  const wide = Math.abs(angle) > STRAIGHT_RAD ? Math.min(1, Math.abs(angle) / Math.PI) : 0
  let ha = apart * (0.4 + 0.27 * wide)
  let hb = ha
  if (Math.abs(angle) > STRAIGHT_RAD && Math.abs(angle) < Math.PI - STRAIGHT_RAD) {
    // How far the corner is ahead of the one and behind the other.
    const across = ux * vy - uy * vx
    const ahead = ((bx - ax) * vy - (by - ay) * vx) / across
    const behind = ((by - ay) * ux - (bx - ax) * uy) / across
    const share = ((4 / 3) * tan(Math.abs(angle) / 4)) / tan(Math.abs(angle) / 2)
    // Close to one end it would make a kink there.
    const even = Math.min(1, Math.max(0, Math.min(ahead, behind) / Math.max(ahead, behind, 1e-9) / UNEVEN))
    ha += even * (ahead * share - ha)
    hb += even * (behind * share - hb)
  }
  const [px, py] = [ax + ux * ha, ay + uy * ha]
  const [qx, qy] = [bx - vx * hb, by - vy * hb]
  const rough = hypot(px - ax, py - ay) + hypot(qx - px, qy - py) + hypot(bx - qx, by - qy)
  const count = Math.min(MOST, Math.max(LEAST, Math.ceil(rough / everyM)))
  const flat = Array.from({ length: count + 1 }, (_, k): [number, number] => {
    if (k === 0) return [ax, ay]
    if (k === count) return [bx, by]
    const t = k / count
    const r = 1 - t
    const [c0, c1, c2, c3] = [r * r * r, 3 * r * r * t, 3 * r * t * t, t * t * t]
    return [c0 * ax + c1 * px + c2 * qx + c3 * bx, c0 * ay + c1 * py + c2 * qy + c3 * by]
  })
  const total = lengthOf(flat)
  let run = 0
  return flat.map(([x, y], k): Point3 => {
    if (k > 0) run += hypot(x - flat[k - 1][0], y - flat[k - 1][1])
    return [x, y, az + (bz - az) * (total > 0 ? run / total : 0)]
  })
}
