import { atan2, cos, hypot, sin } from './exact'
import type { Directed } from './turning'
import type { Point3 } from './vector'

/** A piece of a way: an arc to the left or to the right, or straight on, in radians or radii. */
type Word = readonly [turn: 1 | 0 | -1, long: number]

const TURN = 2 * Math.PI
const acos = (x: number) => atan2(Math.sqrt(Math.max(0, 1 - x * x)), x)
/** An angle from 0 to below a whole turn; one that is a whole turn but for rounding is none. */
const whole = (rad: number) => {
  const r = rad - TURN * Math.floor(rad / TURN)
  return r > TURN - 1e-9 ? 0 : r
}

/** The six ways there can be from the origin to a place so many radii ahead, with directions told from the line to it. */
function words(d: number, a: number, b: number): (readonly Word[])[] {
  const [sa, ca, sb, cb] = [sin(a), cos(a), sin(b), cos(b)]
  const cab = cos(a - b)
  const found: (readonly Word[])[] = []
  const straight = (p2: number, way: (p: number) => readonly Word[]) => {
    if (p2 >= -1e-12) found.push(way(Math.sqrt(Math.max(0, p2))))
  }
  const curved = (c: number, way: (p: number) => readonly Word[]) => {
    if (Math.abs(c) <= 1) found.push(way(TURN - acos(c)))
  }
  straight(2 + d * d - 2 * cab + 2 * d * (sa - sb), (p) => {
    const on = atan2(cb - ca, d + sa - sb)
    return [[1, whole(on - a)], [0, p], [1, whole(b - on)]] // prettier-ignore
  })
  straight(2 + d * d - 2 * cab + 2 * d * (sb - sa), (p) => {
    const on = atan2(ca - cb, d - sa + sb)
    return [[-1, whole(a - on)], [0, p], [-1, whole(on - b)]] // prettier-ignore
  })
  straight(d * d - 2 + 2 * cab + 2 * d * (sa + sb), (p) => {
    const on = atan2(-ca - cb, d + sa + sb) - atan2(-2, p)
    return [[1, whole(on - a)], [0, p], [-1, whole(on - b)]] // prettier-ignore
  })
  straight(d * d - 2 + 2 * cab - 2 * d * (sa + sb), (p) => {
    const on = atan2(ca + cb, d - sa - sb) - atan2(2, p)
    return [[-1, whole(a - on)], [0, p], [1, whole(b - on)]] // prettier-ignore
  })
  curved((6 - d * d + 2 * cab + 2 * d * (sa - sb)) / 8, (p) => {
    const t = whole(a - atan2(ca - cb, d - sa + sb) + p / 2)
    return [[-1, t], [1, p], [-1, whole(a - b - t + p)]] // prettier-ignore
  })
  curved((6 - d * d + 2 * cab + 2 * d * (sb - sa)) / 8, (p) => {
    const t = whole(-a - atan2(ca - cb, d + sa - sb) + p / 2)
    return [[1, t], [-1, p], [1, whole(b - a - t + p)]] // prettier-ignore
  })
  return found
}

/**
 * The shortest line from one place to another that leaves and comes in along given directions and nowhere turns more
 * tightly than a radius: of arcs of that radius and a straight piece (Dubins 1957; in the form of Shkel and Lumelsky
 * 2001). From the end of one lane to the beginning of the one beside it that leads back it is a turning circle. Heights
 * rise evenly along it.
 * @param radiusM above 0 @param everyM how far apart its places are at most, metres; on arcs no farther than 6°
 */
export function turnRoundLine(from: Directed, to: Directed, radiusM: number, everyM = 0.5): Point3[] {
  const [ax, ay, az] = from.at
  const [bx, by, bz] = to.at
  const apart = hypot(bx - ax, by - ay)
  const ahead = apart > 0 ? atan2(by - ay, bx - ax) : 0
  const long = (way: readonly Word[]) => way.reduce((sum, [, m]) => sum + m, 0)
  const all = words(apart / radiusM, whole(from.rad - ahead), whole(to.rad - ahead))
  const way = all.reduce((best, one) => (long(one) < long(best) - 1e-9 ? one : best))
  const total = long(way)
  const stepOf = (turn: number) => Math.min(everyM / radiusM, turn === 0 ? Infinity : Math.PI / 30)
  const line: Point3[] = [from.at]
  let [x, y, rad, run] = [ax, ay, from.rad, 0]
  const place = (px: number, py: number, gone: number) =>
    line.push([px, py, az + (bz - az) * (total > 0 ? (run + gone) / total : 1)])
  for (const [turn, length] of way) {
    const count = Math.ceil(length / stepOf(turn) - 1e-9)
    const [cx, cy] = [x - turn * radiusM * sin(rad), y + turn * radiusM * cos(rad)]
    for (let k = 1; k <= count; k++) {
      const gone = (length * k) / count
      if (turn === 0) place(x + radiusM * gone * cos(rad), y + radiusM * gone * sin(rad), gone)
      else {
        const now = rad + turn * gone
        place(cx + turn * radiusM * sin(now), cy - turn * radiusM * cos(now), gone)
      }
    }
    if (count > 0) [x, y] = line[line.length - 1]
    rad += turn * length
    run += length
  }
  if (line.length === 1) line.push(to.at)
  else line[line.length - 1] = to.at
  return line
}
