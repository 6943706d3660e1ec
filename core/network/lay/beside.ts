import {
  besideLine,
  distance2,
  distanceToSegment,
  exact,
  mix3,
  segmentsMeet,
  simplifyLine,
  smoothPieces,
  spaced,
  turn,
  type Point3,
} from '@tidytrail/core/geometry'
import type { Level, Route } from '@tidytrail/core/level'
import Flatbush from 'flatbush'

/** The stops of a route at a distance beside another. */
export interface Beside {
  readonly stops: readonly { readonly at: Point3; readonly sharp: boolean }[]
  /** Places of the other route beside which the distance cannot be kept: bends too tight for it, with no room to cut them. */
  readonly lost: readonly Point3[]
  /** Where a loop was cut: the inside of a bend tighter than the distance. */
  readonly cut: readonly Point3[]
}

/** Lines are looked at so finely, metres. */
const FINE_M = 0.1
/** However long, with no more places than this. */
const MOST_PLACES = 20_000
/** A turn sharper than this between two fine pieces is a corner. */
const CORNER_RAD = 0.35
/** Arcs round tight bends have a place for every so much of a turn. */
const ARC_RAD = 0.1
/** Corners are carried out to so many times the distance; sharper ones get a square end. */
const MOST_MITRE = 4
/** Places nearer to the line than the distance by more than this lie on a loop, metres. */
const LOOP_M = 0.004
/** Smooth lines are laid so that they keep this near to the true line beside the route, metres. */
const TRUE_M = 0.01
const MOST_ROUNDS = 14

/**
 * The stops of a route beside a route, to the left of it by a distance when that is positive. Straight legs keep their
 * distance from every leg, smooth ones from the line itself: stops are put in until they do, within two centimetres.
 * On the inside of bends that are tighter than the distance the loop is cut, which leaves a corner.
 */
export function besideRoute(route: Route, waypoints: Level['waypoints'], distanceM: number): Beside {
  const places = route.order.map((s) => waypoints[route.stops[s].waypointId].at as Point3)
  const closed = route.travel === 'round' && places.length > 2
  const smooth = route.curve === 'smooth' && route.legs === 'drawn' && route.kind !== 'network'
  const sharp = (i: number) => route.stops[route.order[i]].sharp
  if (distanceM === 0) return { stops: places.map((at, i) => ({ at, sharp: sharp(i) })), lost: [], cut: [] }
  const length = places.reduce((sum, p, i) => (i === 0 ? 0 : sum + distance2(places[i - 1], p)), 0)
  const fineM = Math.max(FINE_M, length / MOST_PLACES)
  const course = smooth
    ? smoothPieces(places, { closed, tension: route.tension, sharp, everyM: fineM })
    : places
        .slice(closed ? 0 : 1)
        .map((p, i) =>
          spaced(
            [places[closed ? (i + places.length - 1) % places.length : i], p],
            Math.max(fineM, Math.abs(distanceM) / 8),
          ),
        )
  const line = withoutRepeats(course.flat())
  if (closed && line.length > 1 && distance2(line[0], line[line.length - 1]) < 1e-9) line.pop()
  if (line.length < 2) return { stops: places.map((at, i) => ({ at, sharp: sharp(i) })), lost: [], cut: [] }
  const corners = new Set(places.filter((_, i) => sharp(i)))
  const raw = rawBeside(line, distanceM, closed, smooth ? (at) => corners.has(at) : undefined)
  const { kept, lost, cut } = withoutLoops(raw, line, distanceM, closed, smooth)
  if (!smooth) {
    // As long as no leg is turned round, every stop has its own beside it.
    const plain = besideLine(places, distanceM, closed)
    const ahead = plain.every((p, i) => {
      const k = (i + 1) % places.length
      if (!closed && k === 0) return true
      const [q, a, b] = [plain[k], places[i], places[k]]
      return (q[0] - p[0]) * (b[0] - a[0]) + (q[1] - p[1]) * (b[1] - a[1]) >= 0
    })
    if (ahead && lost.length === 0 && !raw.some((p) => p.squared))
      return { stops: plain.map(([x, y], i) => ({ at: [x, y, places[i][2]], sharp: sharp(i) })), lost, cut: [] }
    const points = closed ? [...kept, kept[0]] : kept
    const turns = simplifyLine(
      points.flatMap((p) => [p.at[0], p.at[1]]),
      0.001,
    ).map((k) => points[k])
    if (closed) turns.pop()
    return { stops: turns.map(({ at }) => ({ at, sharp: false })), lost, cut }
  }
  return { stops: fitted(kept, places, distanceM, route.tension, closed), lost, cut }
}

/** A place of the line beside, and the place of the line it lies beside. */
interface Place {
  readonly at: Point3
  readonly of: Point3
  readonly corner: boolean
  /** Is it at the end of a corner too sharp to be carried out? */
  readonly squared?: boolean
}

function withoutRepeats(line: readonly Point3[]): Point3[] {
  return line.filter((p, i) => i === 0 || distance2(p, line[i - 1]) > 1e-9)
}

/**
 * Every place moved sideways, corners carried out on their outside; loops on the inside of bends and all.
 * @param round tells the corners from what is only a tight bend; all sharp turns are corners where nothing does
 */
function rawBeside(line: readonly Point3[], d: number, closed: boolean, round?: (at: Point3) => boolean): Place[] {
  const n = line.length
  const direction = (i: number, j: number): [number, number] => {
    const m = distance2(line[i], line[j])
    return [(line[j][0] - line[i][0]) / m, (line[j][1] - line[i][1]) / m]
  }
  const raw: Place[] = []
  for (let i = 0; i < n; i++) {
    const of = line[i]
    const before = closed || i > 0 ? direction((i + n - 1) % n, i) : undefined
    const after = closed || i < n - 1 ? direction(i, (i + 1) % n) : undefined
    const a = before ?? after!
    const b = after ?? before!
    const moved = ([ux, uy]: readonly number[], ahead = 0): Point3 => [
      of[0] - uy * d + ux * ahead,
      of[1] + ux * d + uy * ahead,
      of[2],
    ]
    const angle = exact.atan2(a[0] * b[1] - a[1] * b[0], a[0] * b[0] + a[1] * b[1])
    const outside = angle * d < 0
    const corner = !round || round(of)
    if (!corner && outside && Math.abs(angle) > ARC_RAD) {
      // A bend as tight as this goes round its place in an arc.
      const steps = Math.ceil(Math.abs(angle) / ARC_RAD)
      for (let k = 0; k <= steps; k++) {
        const [c, s] = [exact.cos((angle * k) / steps), exact.sin((angle * k) / steps)]
        raw.push({ at: moved([a[0] * c - a[1] * s, a[0] * s + a[1] * c]), of, corner: false })
      }
      continue
    }
    if (Math.abs(angle) < (corner ? CORNER_RAD : ARC_RAD)) {
      const [sx, sy] = [a[0] + b[0], a[1] + b[1]]
      const m = exact.hypot(sx, sy)
      raw.push({ at: moved([sx / m, sy / m]), of, corner: false })
      continue
    }
    const half = exact.tan(Math.min(Math.PI / 2 - 1e-6, Math.abs(angle) / 2)) * Math.abs(d)
    if (!outside) raw.push({ at: moved(a), of, corner }, { at: moved(b), of, corner })
    else if (1 / exact.cos(Math.abs(angle) / 2) <= MOST_MITRE) raw.push({ at: moved(a, half), of, corner: true })
    else {
      const square = Math.abs(d)
      raw.push({ at: moved(a, square), of, corner: true, squared: true })
      raw.push({ at: moved(b, -square), of, corner: true, squared: true })
    }
  }
  return raw
}

/** Cuts the loops out of a line beside a line, where its two sides cross. */
function withoutLoops(raw: readonly Place[], line: readonly Point3[], d: number, closed: boolean, smoothOnly: boolean) {
  const legs = closed ? line.length : line.length - 1
  const index = new Flatbush(legs)
  for (let i = 0; i < legs; i++) {
    const [p, q] = [line[i], line[(i + 1) % line.length]]
    index.add(Math.min(p[0], q[0]), Math.min(p[1], q[1]), Math.max(p[0], q[0]), Math.max(p[1], q[1]))
  }
  index.finish()
  const reach = Math.abs(d) - LOOP_M
  const tooNear = ({ at: [x, y] }: Place) =>
    index.search(x - reach, y - reach, x + reach, y + reach).some((i) => {
      const [p, q] = [line[i], line[(i + 1) % line.length]]
      return distanceToSegment(x, y, p[0], p[1], q[0], q[1]) < reach
    })
  // A round begins where it keeps its distance, so that no loop lies across its ends.
  const near = raw.map(tooNear)
  const start = closed ? Math.max(0, near.indexOf(false)) : 0
  const ring = [...raw.slice(start), ...raw.slice(0, start)]
  const bad = [...near.slice(start), ...near.slice(0, start)]
  if (closed) {
    ring.push(ring[0])
    bad.push(bad[0])
  }
  const kept: Place[] = []
  const lost: Point3[] = []
  const cut: Point3[] = []
  for (let i = 0; i < ring.length; i++) {
    if (!bad[i]) {
      kept.push(ring[i])
      continue
    }
    let end = i
    while (end + 1 < ring.length && bad[end + 1]) end++
    const at = i > 0 && end + 1 < ring.length ? whereSidesCross(ring, i, end) : undefined
    if (at) {
      kept.push({ at: at.at, of: ring[i].of, corner: true })
      // A plain corner is no loop.
      if (!smoothOnly || !ring.slice(i, end + 1).some((p) => p.corner)) cut.push(at.at)
      i = at.goOn - 1
    } else {
      kept.push(...ring.slice(i, end + 1))
      lost.push(ring[Math.floor((i + end) / 2)].of)
      i = end
    }
  }
  if (closed) kept.pop()
  return { kept, lost, cut }
}

/** Pieces looked at on either side of a loop. */
const AROUND = 6

/** Where the line crosses itself about a stretch that is too near, and the place after which it goes on. */
function whereSidesCross(ring: readonly Place[], from: number, to: number): { at: Point3; goOn: number } | undefined {
  for (let i = Math.max(1, from); i <= Math.min(to, from + AROUND); i++) {
    for (let j = Math.min(ring.length - 1, to + 1); j >= Math.max(i + 2, to - AROUND); j--) {
      const [a, b, c, e] = [ring[i - 1].at, ring[i].at, ring[j - 1].at, ring[j].at]
      if (!segmentsMeet(a, b, c, e)) continue
      const across = turn(c, e, a) - turn(c, e, b)
      return { at: across === 0 ? b : mix3(a, b, turn(c, e, a) / across), goOn: j }
    }
  }
  return undefined
}

/** Stops for a smooth line that keeps to a line: those beside the stops of the other route, and more where it strays. */
function fitted(kept: readonly Place[], places: readonly Point3[], d: number, tension: number, closed: boolean) {
  const last = kept.length - 1
  const chosen = new Set<number>(closed ? [0] : [0, last])
  kept.forEach((p, k) => p.corner && chosen.add(k))
  for (const place of places) {
    let best = -1
    let nearest = 0.5 * FINE_M
    kept.forEach((p, k) => {
      const m = distance2(p.of, place)
      if (m >= nearest || Math.abs(distance2(p.at, place) - Math.abs(d)) > TRUE_M) return
      nearest = m
      best = k
    })
    if (best >= 0) chosen.add(best)
  }
  if (closed && chosen.size < 3) for (const share of [1 / 3, 2 / 3]) chosen.add(Math.floor(kept.length * share))
  const at = (k: number) => kept[k % kept.length].at
  for (let round = 0; ; round++) {
    const order = [...chosen].sort((a, b) => a - b)
    const stops = order.map((k) => ({ at: kept[k].at, sharp: kept[k].corner }))
    if (round === MOST_ROUNDS) return stops
    const pieces = smoothPieces(
      stops.map((s) => s.at),
      { closed, tension, sharp: (i) => stops[i].sharp, everyM: FINE_M },
    )
    const before = chosen.size
    pieces.forEach((piece, i) => {
      const from = order[i]
      const to = i + 1 < order.length ? order[i + 1] : order[0] + kept.length
      if (to - from < 2) return
      const strays = piece.some(([x, y]) => {
        let m = Infinity
        for (let k = from; k < to && m > TRUE_M; k++)
          m = Math.min(m, distanceToSegment(x, y, at(k)[0], at(k)[1], at(k + 1)[0], at(k + 1)[1]))
        return m > TRUE_M
      })
      if (strays) chosen.add(Math.floor((from + to) / 2) % kept.length)
    })
    if (chosen.size === before) return stops
  }
}
