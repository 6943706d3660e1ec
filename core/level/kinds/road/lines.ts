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
  'points' | 'curve' | 'ahead' | 'back' | 'laneM' | 'medianM' | 'pavementLeftM' | 'pavementRightM'
>

/** Places of a lane lie where its road turned by so much since the last, radians, and never nearer than this, metres. */
const TURN_RAD = 0.21
const NEAR_M = 1
/** The road's line is followed so finely, metres. */
const FINE_M = 0.5

/** How far to the left of the middle of a road each of its lanes lies, metres; negative to the right. */
export function laneOffsets(road: Shape, drivesOn: 'left' | 'right'): { key: string; m: number; widthM: number }[] {
  const { ahead, back, laneM, medianM } = road
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
  const middle = middleOf(road)
  return laneOffsets(road, drivesOn).map(({ key, m, widthM }) => {
    const line = beside(middle, m, road.curve === 'straight')
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

interface Middle {
  readonly places: readonly Point3[]
  /** The direction of the road at each place; a straight road has corners instead. */
  readonly heading: readonly (readonly [number, number])[]
}

/** Places of the middle of a road: its own, and more where it bends. */
function middleOf({ points, curve }: Shape): Middle {
  if (curve === 'straight') return { places: points, heading: [] }
  const pieces = smoothPieces(points, { everyM: FINE_M })
  const fine: Point3[] = [points[0]]
  const own = new Set<number>([0])
  for (const piece of pieces) {
    for (let k = 1; k < piece.length; k++) if (distance2(fine[fine.length - 1], piece[k]) > 1e-9) fine.push(piece[k])
    own.add(fine.length - 1)
  }
  const direction = (i: number): readonly [number, number] => {
    const [a, b] = [fine[Math.max(0, i - 1)], fine[Math.min(fine.length - 1, i + 1)]]
    const m = distance2(a, b) || 1
    return [(b[0] - a[0]) / m, (b[1] - a[1]) / m]
  }
  const places: Point3[] = []
  const heading: (readonly [number, number])[] = []
  fine.forEach((place, i) => {
    const here = direction(i)
    if (places.length > 0 && !own.has(i)) {
      const before = heading[heading.length - 1]
      const turned = Math.abs(
        exact.atan2(before[0] * here[1] - before[1] * here[0], before[0] * here[0] + before[1] * here[1]),
      )
      if (turned < TURN_RAD || distance2(places[places.length - 1], place) < NEAR_M) return
    }
    places.push(place)
    heading.push(here)
  })
  return { places, heading }
}

function beside({ places, heading }: Middle, m: number, straight: boolean): Point3[] {
  const flat = straight
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
