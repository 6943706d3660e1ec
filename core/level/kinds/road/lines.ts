import { besideLine, distance2, exact, smoothPieces, toMillimetre, type Point3 } from '@tidytrail/core/geometry'
import type { Road } from '.'

/** A lane of a road: which it is, where it is laid, and how. */
export interface RoadLane {
  readonly key: string
  readonly use: 'drive' | 'walk'
  readonly widthM: number
  /** In the direction it leads. */
  readonly line: readonly Point3[]
}

type Shape = Pick<
  Road,
  'points' | 'curve' | 'ahead' | 'back' | 'laneM' | 'medianM' | 'pavementLeftM' | 'pavementRightM' | 'track' | 'passing'
>

/** Places of a lane lie where its road turned by so much since the last, radians, and never nearer than this, metres. */
const TURN_RAD = 0.21
const NEAR_M = 1
/** The road's line is followed so finely, metres. */
const FINE_M = 0.5

/** How far to the left of the middle of a road each of its lanes lies, metres; negative to the right. */
export function laneOffsets(road: Shape, drivesOn: 'left' | 'right'): { key: string; m: number; widthM: number }[] {
  const { laneM } = road
  const [ahead, back, medianM] = road.track ? [1, 1, 0] : [road.ahead, road.back, road.medianM]
  const side = drivesOn === 'left' ? 1 : -1
  const both = ahead > 0 && back > 0
  // One way only, its lanes lie about the middle.
  const first = (lanes: number) => (both ? medianM / 2 : (-lanes * laneM) / 2)
  const offsets: { key: string; m: number; widthM: number }[] = []
  for (let k = 0; k < ahead; k++)
    offsets.push({ key: `a${k + 1}`, m: side * (first(ahead) + (k + 0.5) * laneM), widthM: laneM })
  for (let k = 0; k < back; k++)
    offsets.push({ key: `b${k + 1}`, m: -side * (first(back) + (k + 0.5) * laneM), widthM: laneM })
  const edge = (left: 1 | -1) =>
    offsets.reduce((most, { m }) => Math.max(most, left * m + laneM / 2), both ? medianM / 2 : 0)
  const edges = [edge(1), edge(-1)]
  if (road.pavementLeftM > 0)
    offsets.push({ key: 'pl', m: edges[0] + road.pavementLeftM / 2, widthM: road.pavementLeftM })
  if (road.pavementRightM > 0)
    offsets.push({ key: 'pr', m: -edges[1] - road.pavementRightM / 2, widthM: road.pavementRightM })
  return offsets
}

/** Where the lanes of a road are laid. On the inside of a bend tighter than its distance a lane cuts the corner. */
export function laneLines(road: Shape, drivesOn: 'left' | 'right'): RoadLane[] {
  const middle = road.track ? trackOf(road) : middleOf(road)
  return laneOffsets(road, drivesOn).map(({ key, m, widthM }) => {
    const shares = key.startsWith('p') ? undefined : middle.shares
    const line = beside(middle, m, road.curve === 'straight', shares)
    return {
      key,
      use: key.startsWith('p') ? 'walk' : 'drive',
      widthM,
      line: (key.startsWith('b') ? [...line].reverse() : line).map((p): Point3 => [
        toMillimetre(p[0]),
        toMillimetre(p[1]),
        toMillimetre(p[2]),
      ]),
    }
  })
}

/** A track is wide for so long at both ends, and narrows from there and from each passing place over so long, metres. */
const ENDS_M = 20
const TAPER_M = 10
/** Places of its lanes lie no farther apart, metres. */
const EVERY_M = 8

/** How wide a track is so far along it: 1 where one passes, 0 where both ways share one lane. */
function wideAt({ passing }: Shape, lengthM: number, m: number): number {
  const wide = [{ fromM: 0, toM: ENDS_M }, { fromM: lengthM - ENDS_M, toM: lengthM }, ...passing]
  const share = Math.max(0, ...wide.map(({ fromM, toM }) => 1 - Math.max(0, fromM - m, m - toM) / TAPER_M))
  // Without a kink at either end of a taper.
  return share * share * (3 - 2 * share)
}

/** Places of the middle of a track: its own, more where it bends or narrows, and some between. */
function trackOf(road: Shape): Middle {
  const { points, curve } = road
  const pieces =
    curve === 'smooth'
      ? smoothPieces(points, { everyM: FINE_M })
      : points.slice(1).map((to, k) => split(points[k], to, Math.ceil(distance2(points[k], to) / FINE_M)))
  const { fine, own } = joined(points[0], pieces)
  const s = [0]
  for (let i = 1; i < fine.length; i++) s.push(s[i - 1] + distance2(fine[i - 1], fine[i]))
  const lengthM = s[s.length - 1]
  // A smooth line through places far from each other after some that are near would swing out.
  const taper = [0, 0.25, 0.5, 0.75, 1].map((share) => share * TAPER_M)
  const wide = [{ fromM: 0, toM: ENDS_M }, { fromM: lengthM - ENDS_M, toM: lengthM }, ...road.passing]
  const wanted = wide.flatMap(({ fromM, toM }) => taper.flatMap((m) => [fromM - m, toM + m]))
  const marked = new Set(wanted.map((m) => s.findIndex((to) => to >= m)))
  const chosen: number[] = []
  let turned = 0
  fine.forEach((_, i) => {
    if (i > 0) turned += turnedBetween(directionIn(fine, i - 1), directionIn(fine, i))
    const gone = chosen.length === 0 ? Infinity : s[i] - s[chosen[chosen.length - 1]]
    const last = i === fine.length - 1
    if (!last && gone < NEAR_M && !own.has(i)) return
    if (!last && !own.has(i) && !marked.has(i) && turned < TURN_RAD && gone < EVERY_M) return
    // One just before a place of its own would make a kink there.
    if (own.has(i) && gone < NEAR_M && chosen.length > 1) chosen.pop()
    chosen.push(i)
    turned = 0
  })
  return {
    places: chosen.map((i) => fine[i]),
    heading: chosen.map((i) => directionIn(fine, i)),
    shares: chosen.map((i) => wideAt(road, lengthM, s[i])),
  }
}

const split = (a: Point3, b: Point3, count: number): Point3[] =>
  Array.from({ length: count + 1 }, (_, k): Point3 => {
    const t = k / count
    return k === count ? b : [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t]
  })

/** Pieces of a line as one, without places that are the same, and which of its places begin or end a piece. */
function joined(first: Point3, pieces: readonly (readonly Point3[])[]): { fine: Point3[]; own: Set<number> } {
  const fine: Point3[] = [first]
  const own = new Set<number>([0])
  for (const piece of pieces) {
    for (let k = 1; k < piece.length; k++) if (distance2(fine[fine.length - 1], piece[k]) > 1e-9) fine.push(piece[k])
    own.add(fine.length - 1)
  }
  return { fine, own }
}

function directionIn(fine: readonly Point3[], i: number): readonly [number, number] {
  const [a, b] = [fine[Math.max(0, i - 1)], fine[Math.min(fine.length - 1, i + 1)]]
  const m = distance2(a, b) || 1
  return [(b[0] - a[0]) / m, (b[1] - a[1]) / m]
}

const turnedBetween = (a: readonly [number, number], b: readonly [number, number]): number =>
  Math.abs(exact.atan2(a[0] * b[1] - a[1] * b[0], a[0] * b[0] + a[1] * b[1]))

interface Middle {
  readonly places: readonly Point3[]
  /** The direction of the road at each place; a straight road has corners instead. */
  readonly heading: readonly (readonly [number, number])[]
  /** Of a track: how far its lanes are aside at each place, as a share of what they are where they pass each other. */
  readonly shares?: readonly number[]
}

/** Places of the middle of a road: its own, and more where it bends. */
function middleOf({ points, curve }: Shape): Middle {
  if (curve === 'straight') return { places: points, heading: [] }
  const { fine, own } = joined(points[0], smoothPieces(points, { everyM: FINE_M }))
  const places: Point3[] = []
  const heading: (readonly [number, number])[] = []
  fine.forEach((place, i) => {
    const here = directionIn(fine, i)
    if (places.length > 0 && !own.has(i)) {
      const before = heading[heading.length - 1]
      const turned = turnedBetween(before, here)
      if (turned < TURN_RAD || distance2(places[places.length - 1], place) < NEAR_M) return
    }
    places.push(place)
    heading.push(here)
  })
  return { places, heading }
}

function beside({ places, heading }: Middle, m: number, straight: boolean, shares?: readonly number[]): Point3[] {
  const flat = shares
    ? places.map(([x, y], i) => [x - heading[i][1] * m * shares[i], y + heading[i][0] * m * shares[i]] as const)
    : straight
      ? besideLine(places, m)
      : places.map(([x, y], i) => [x - heading[i][1] * m, y + heading[i][0] * m] as const)
  const line: Point3[] = []
  flat.forEach(([x, y], i) => {
    const last = line[line.length - 1]
    const end = i === flat.length - 1
    if (last) {
      // The inside of a tight bend would run backwards.
      const from = places[i - 1]
      const on = (x - last[0]) * (places[i][0] - from[0]) + (y - last[1]) * (places[i][1] - from[1])
      if (on <= 0 && !end) return
      if (on <= 0 && line.length > 1) line.pop()
    }
    line.push([x, y, places[i][2]])
  })
  return line
}

const lines = new WeakMap<Road['points'], Map<string, readonly Point3[]>>()

/** The middle of a road as it is driven beside. */
export function middleLine({ points, curve }: Pick<Road, 'points' | 'curve'>): readonly Point3[] {
  let of = lines.get(points)
  if (!of) lines.set(points, (of = new Map()))
  let line = of.get(curve)
  if (!line)
    of.set(
      curve,
      (line =
        curve === 'straight'
          ? points
          : smoothPieces(points, { everyM: 1 }).flatMap((p, k) => (k === 0 ? p : p.slice(1)))),
    )
  return line
}
