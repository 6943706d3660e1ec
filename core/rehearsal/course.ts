import { distance2, exact, type Point3 } from '@tidytrail/core/geometry'
import type { PassageUse } from '@tidytrail/core/reach'

/** How far from a corner of its line a body may pass it, metres: what it may cut or swing wide. */
export const CORNER_M = 0.15
/** No corner is passed slower than this, metres a second. */
const CRAWL_MPS = 0.25

/** What a body can do along a line. Metres, seconds, radians. */
export interface Powers {
  readonly accelMps2: number
  readonly brakeMps2: number
  /** Greatest acceleration sideways. */
  readonly sideMps2: number
  /** Greatest turning rate, at any speed. */
  readonly turnRadps: number
  /** Smallest circle it can turn in, at any speed; 0 for one that turns on the spot. */
  readonly turnM: number
  readonly slowestMps: number
  /** Time it takes to answer its helm, seconds. */
  readonly lagS: number
}

/** One leg of a course: its line, how fast it is to be travelled, and the stop it leads to. */
export interface CourseLeg {
  readonly line: readonly Point3[]
  readonly uses: readonly PassageUse[]
  readonly gaitMps: number
  /** Position of the stop in the route's order; −1 for a place that is none. */
  readonly stop: number
  /** How much longer covers and slopes make it than bare level ground, seconds. */
  readonly extraS: number
  /** The piece of the lanes it leads along, by its number, and from where to where, metres along that. */
  readonly on?: { readonly piece: number; readonly fromM: number; readonly toM: number }
  /** Does it lead along a lane for walking, wide enough to pass each other? */
  readonly wide?: true
  /** Where the line came from before its first place, of which it is the rest: its first bend is judged by that. */
  readonly behind?: Point3
  /** Its number, where it is kept for all who are carried along it. */
  readonly kept?: number
}

/** Which pieces of the lanes a course leads along: of each leg its piece, −1 for none, and where it begins and ends on course and piece. */
export interface Track {
  readonly piece: Int32Array
  readonly fromS: Float64Array
  readonly toS: Float64Array
  readonly fromM: Float64Array
  readonly toM: Float64Array
}

/** A stop a course leads over: at which of its points, and how long a traveller needs for the leg to it, seconds. */
export interface Mark {
  readonly point: number
  readonly stop: number
  readonly expectedS: number
  readonly legM: number
}

/** Where a course leads over a crossing: its number, from where to where along the course, metres, and is it gone over backwards? */
export interface Over {
  readonly crossing: number
  readonly fromS: number
  readonly toS: number
  readonly back: boolean
}
export const NO_OVERS: readonly Over[] = []

/**
 * A line to be travelled, over one leg or several that are passed without a stop: points, arc length, and the speed
 * allowed at each so that nothing ahead is come to too fast. Never changed once made. Metres, metres a second.
 */
export interface Course {
  readonly count: number
  readonly x: Float64Array
  readonly y: Float64Array
  readonly z: Float64Array
  readonly s: Float64Array
  /** Greatest speed at each point. */
  readonly limit: Float64Array
  /** Speed asked for on the piece that ends at each point. */
  readonly gait: Float64Array
  readonly marks: readonly Mark[]
  /** Passages by the point they begin at. */
  readonly uses: readonly PassageUse[]
  /** x, y, s, greatest speed and asked speed of each point once more, a line of the memory each, for those who look for their place on it. */
  readonly packed: Float64Array
  /** Does its traveller stand still at its end? */
  readonly halts: boolean
  /** The lanes it leads along, if any. */
  readonly track: Track | undefined
  /** The crossings over lanes it leads over on foot, the first first. */
  readonly overs: readonly Over[]
  /** Is there room beside its line all the way, so that nobody has to go first at its corners? */
  readonly wide: boolean
}

/**
 * Joins legs to a course. Speeds come from a pass over its corners, then one backward by what the brakes can do.
 * @param halts does the traveller stand still at its end?
 */
export function makeCourse(legs: readonly CourseLeg[], powers: Powers, halts: boolean, toleranceM = CORNER_M): Course {
  const places: Point3[] = [legs[0].line[0]]
  const gaits = [legs[0].gaitMps]
  const uses: PassageUse[] = []
  const marks: { point: number; stop: number; from: number; extraS: number }[] = []
  for (const leg of legs) {
    const from = places.length - 1
    for (let k = 1; k < leg.line.length; k++) {
      const use = leg.uses.find((u) => u.at === k - 1)
      if (use) uses.push({ ...use, at: places.length - 1 })
      else if (distance2(places[places.length - 1], leg.line[k]) < 1e-6 && k < leg.line.length - 1) continue
      places.push(leg.line[k])
      gaits.push(leg.gaitMps)
    }
    if (leg.line.length < 2) {
      places.push(leg.line[0])
      gaits.push(leg.gaitMps)
    }
    marks.push({ point: places.length - 1, stop: leg.stop, from, extraS: leg.extraS })
  }
  const n = places.length
  const s = new Float64Array(n)
  for (let k = 1; k < n; k++) s[k] = s[k - 1] + distance2(places[k - 1], places[k])
  const limit = new Float64Array(n)
  for (let k = 0; k < n; k++) {
    const on = Math.min(gaits[k], k + 1 < n ? gaits[k + 1] : Infinity)
    limit[k] = k === 0 || k === n - 1 ? on : Math.min(on, cornerSpeed(places, k, powers, toleranceM, k === 1 ? legs[0].behind : undefined)) // prettier-ignore
  }
  if (halts) limit[n - 1] = 0
  for (const { at } of uses) limit[at] = Math.min(limit[at], Math.max(CRAWL_MPS, powers.slowestMps))
  for (let k = n - 2; k >= 0; k--) {
    limit[k] = Math.min(limit[k], Math.sqrt(limit[k + 1] ** 2 + 2 * powers.brakeMps2 * (s[k + 1] - s[k])))
  }
  const course = {
    count: n,
    x: Float64Array.from(places, (p) => p[0]),
    y: Float64Array.from(places, (p) => p[1]),
    z: Float64Array.from(places, (p) => p[2]),
    s,
    limit,
    gait: Float64Array.from(gaits),
    uses,
    halts,
    overs: NO_OVERS,
    wide: legs.every((leg) => leg.wide === true),
    packed: pack(places, s, limit, gaits),
  }
  let v = 0
  const told = marks.map((m): Mark => {
    let seconds = m.extraS
    for (let k = m.from + 1; k <= m.point; k++) {
      const use = uses.find((u) => u.at === k - 1)
      if (use) {
        seconds += use.takesS
        v = 0
        continue
      }
      const [took, after] = pieceTime(s[k] - s[k - 1], v, limit[k], gaits[k], powers)
      seconds += took
      v = after
    }
    return { point: m.point, stop: m.stop, expectedS: seconds, legM: s[m.point] - s[m.from] }
  })
  return { ...course, marks: told, track: trackOf(legs, told, s) }
}

/** So many numbers are packed for each point of a course: a line of the memory's own. */
export const PACK = 8

function pack(places: readonly Point3[], s: Float64Array, limit: Float64Array, gaits: readonly number[]): Float64Array {
  const packed = new Float64Array(places.length * PACK)
  for (let k = 0, q = 0; k < places.length; k++, q += PACK) {
    packed[q] = places[k][0]
    packed[q + 1] = places[k][1]
    packed[q + 2] = s[k]
    packed[q + 3] = limit[k]
    packed[q + 4] = gaits[k]
  }
  return packed
}

const place = new Float64Array(2)

/** The place so far along a course, straight on beyond its ends, from a point near it on, written to the two numbers given back. */
export function placeAt({ packed, count }: Course, s: number, near: number): Float64Array {
  const last = PACK * (count - 1)
  let q = PACK * near
  while (q > PACK && packed[q - PACK + 2] > s) q -= PACK
  while (q < last && packed[q + 2] < s) q += PACK
  const fromS = packed[q - PACK + 2]
  const length = packed[q + 2] - fromS
  const share = length > 1e-9 ? (s - fromS) / length : 1
  const x = packed[q - PACK]
  const y = packed[q - PACK + 1]
  place[0] = x + (packed[q] - x) * share
  place[1] = y + (packed[q + 1] - y) * share
  return place
}

function trackOf(legs: readonly CourseLeg[], marks: readonly Mark[], s: Float64Array): Track | undefined {
  if (!legs.some((leg) => leg.on)) return undefined
  const fromS = Float64Array.from(marks, (_, k) => (k === 0 ? 0 : s[marks[k - 1].point]))
  const toS = Float64Array.from(marks, (m) => s[m.point])
  return {
    piece: Int32Array.from(legs, (leg) => leg.on?.piece ?? -1),
    fromS,
    toS,
    // What is begun from somewhere on the way is as far on as there is left of it.
    fromM: Float64Array.from(legs, (leg, k) =>
      k === 0 ? (leg.on?.toM ?? 0) - (toS[k] - fromS[k]) : (leg.on?.fromM ?? 0),
    ),
    toM: Float64Array.from(legs, (leg) => leg.on?.toM ?? 0),
  }
}

/**
 * Speed at which a corner can be rounded no farther from it than a tolerance, metres a second.
 * @param behind where it is come from, if that is farther back than the place before
 */
export function cornerSpeed(
  places: readonly Point3[],
  k: number,
  powers: Powers,
  toleranceM: number,
  behind = places[k - 1],
): number {
  const [ax, ay] = behind
  const [bx, by] = places[k]
  const [cx, cy] = places[k + 1]
  const before = exact.hypot(bx - ax, by - ay)
  const after = exact.hypot(cx - bx, cy - by)
  if (before < 1e-9 || after < 1e-9) return Infinity
  const dot = (bx - ax) * (cx - bx) + (by - ay) * (cy - by)
  const cross = (bx - ax) * (cy - by) - (by - ay) * (cx - bx)
  if (dot > 0.99999 * before * after) return Infinity
  // Half of the angle turned: an arc tangent to both pieces that passes the corner at the tolerance.
  const half = exact.atan2(Math.abs(cross), dot) / 2
  const c = exact.cos(half)
  let radiusM = c >= 1 ? Infinity : (toleranceM * c) / (1 - c)
  // No wider than the pieces leave room for: on a drawn curve the arc is that of the curve itself.
  radiusM = Math.min(radiusM, Math.min(before, after) / 2 / Math.max(1e-9, exact.tan(half)))
  radiusM = Math.max(radiusM, powers.turnM)
  const mps = Math.min(Math.sqrt(powers.sideMps2 * radiusM), powers.turnRadps * radiusM)
  return Math.max(CRAWL_MPS, powers.slowestMps, mps)
}

/**
 * Time for a piece of a line begun at one speed, to be left at no more than another, never over a third.
 * @returns seconds, and the speed at its end
 */
export function pieceTime(
  lengthM: number,
  v0: number,
  atEnd: number,
  most: number,
  { accelMps2: a, brakeMps2: b }: Powers,
): [number, number] {
  if (lengthM <= 0) return [0, Math.min(v0, atEnd)]
  const from = Math.min(v0, most)
  const top = Math.min(most, Math.sqrt((2 * a * b * lengthM + b * from * from + a * atEnd * atEnd) / (a + b)))
  if (top <= from && from > atEnd) {
    // Braking all the way, as hard as it takes.
    const mean = Math.max(1e-6, (from + atEnd) / 2)
    return [lengthM / mean, atEnd]
  }
  const rise = (top * top - from * from) / (2 * a)
  if (top < most && top <= atEnd) {
    const end = Math.sqrt(from * from + 2 * a * lengthM)
    return [(end - from) / a, Math.min(end, atEnd)]
  }
  const end = Math.min(atEnd, top)
  const fall = (top * top - end * end) / (2 * b)
  const steady = Math.max(0, lengthM - rise - fall)
  return [(top - from) / a + (top - end) / b + (top > 0 ? steady / top : 0), end]
}

/** Speed, metres a second, from which one can brake to another within so many metres: v² = u² + 2 b s. */
export const speedBefore = (mps: number, leftM: number, brakeMps2: number): number =>
  Math.sqrt(mps * mps + 2 * brakeMps2 * Math.max(0, leftM))
