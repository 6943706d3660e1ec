import {
  boxOf,
  distanceToLine,
  exact,
  simplifyLine,
  toMillimetre,
  turningLine,
  type Point2,
  type Point3,
} from '@tidytrail/core/geometry'
import type { LaneMap, MapLane } from '@tidytrail/core/traffic'
import { FormatError } from '../error'
import { FORMAT_LIMITS } from '../limits'
import { lineOf } from '../xml'
import { roadOf, type OpenRoad, type RoadEnd, type SectionLane } from './road'
import { numberOf, partNamed, partsNamed, treeOf, type Element } from './tree'

/** A lane of a section: which road, which of its sections, and which lane. */
interface Node {
  readonly key: string
  readonly road: OpenRoad
  readonly section: number
  readonly lane: SectionLane
}

/** Places of a lane nearer than this to the line between others are left out, metres. */
const PLAIN_M = 0.05
/** A way through a junction that strays from ours by more than this is told of, metres. */
const STRAYS_M = 0.5
/** So many lines are said of what was read otherwise, at most. */
const MOST_REPAIRS = 200

/**
 * The lanes of an ASAM OpenDRIVE file (1.4 to 1.8): those one drives or walks along, with their widths, limits, heights
 * and where they may be changed; how they go on into each other; junctions, and where signals stand. Ways through
 * junctions become joins. Metres about the middle of what it holds.
 * @throws FormatError with the line
 */
export function readOpenDrive(text: string): LaneMap {
  const root = treeOf(text)
  if (root.name !== 'OpenDRIVE')
    throw new FormatError(lineOf(root), `begins with <${root.name}>, and is no OpenDRIVE file`)
  const elements = partsNamed(root, 'road')
  if (elements.length > FORMAT_LIMITS.features)
    throw new FormatError('', `has more than ${FORMAT_LIMITS.features.toLocaleString('en')} roads`)
  const roads = new Map<string, OpenRoad>()
  const repairs: string[] = []
  for (const element of elements) {
    const road = roadOf(element)
    if (roads.has(road.id)) throw new FormatError(lineOf(element), `a road before it has the id ${road.id} too`)
    roads.set(road.id, road)
  }
  const places = [...roads.values()].reduce((n, r) => n + r.line.stations.length * Math.max(1, r.sections.flat().length), 0) // prettier-ignore
  if (places > FORMAT_LIMITS.cornersInAll)
    throw new FormatError(
      '',
      `its roads are longer than ${FORMAT_LIMITS.cornersInAll.toLocaleString('en')} places can tell`,
    )
  const nodes = new Map<string, Node>()
  for (const road of roads.values())
    road.sections.forEach((lanes, section) => {
      for (const lane of lanes) {
        const key = keyOf(road.id, section, lane.id)
        nodes.set(key, { key, road, section, lane })
      }
    })
  if (nodes.size === 0) throw new FormatError('', 'has no lane in it that is driven or walked along')
  const left = [...new Set([...roads.values()].flatMap((r) => [...r.passedOver]))].sort()
  if (left.length > 0) repairs.push(`lanes of the kinds ${left.join(', ')} were left out`)
  if ([...roads.values()].some((r) => r.banked)) repairs.push('roads that lean to a side are laid level')
  const out = edgesOf(roads, nodes, partsNamed(root, 'junction'))
  return mapOf(root, roads, nodes, out, repairs)
}

const keyOf = (road: string, section: number, lane: number): string => `${road}/${section}/${lane}`

/** Which lane leads into which. */
function edgesOf(
  roads: ReadonlyMap<string, OpenRoad>,
  nodes: ReadonlyMap<string, Node>,
  junctions: readonly Element[],
): Map<string, Set<string>> {
  const out = new Map<string, Set<string>>([...nodes.keys()].map((key) => [key, new Set()]))
  const join = (a: Node | undefined, b: Node | undefined): void => {
    if (a && b && a.lane.use === b.lane.use && a !== b) out.get(a.key)!.add(b.key)
  }
  /** Two that lie end to end: which leads into which is told by the way the first leads there. */
  const meet = (a: Node | undefined, atEnd: boolean, b: Node | undefined): void => {
    if (!a || !b) return
    if (a.lane.along === atEnd) join(a, b)
    else join(b, a)
  }
  const nodeAt = (end: RoadEnd, lane: number): Node | undefined => {
    const road = roads.get(end.id)
    return road && nodes.get(keyOf(end.id, end.at === 'start' ? 0 : road.sections.length - 1, lane))
  }
  for (const node of nodes.values()) {
    const { road, section, lane } = node
    for (const [to, atEnd] of [
      [lane.successor, true],
      [lane.predecessor, false],
    ] as const) {
      if (to === undefined) continue
      const beside = nodes.get(keyOf(road.id, section + (atEnd ? 1 : -1), to))
      const last = atEnd ? section === road.sections.length - 1 : section === 0
      const end = atEnd ? road.successor : road.predecessor
      if (!last) meet(node, atEnd, beside)
      else if (end?.kind === 'road') meet(node, atEnd, nodeAt(end, to))
    }
  }
  // What comes into a junction goes on along the roads through it.
  for (const junction of junctions)
    for (const connection of partsNamed(junction, 'connection')) {
      const { incomingRoad, connectingRoad, contactPoint } = connection.attributes
      const from = roads.get(incomingRoad ?? '')
      if (!from || connectingRoad === undefined) continue
      const at = contactPoint === 'end' ? 'end' : 'start'
      for (const link of partsNamed(connection, 'laneLink')) {
        const to = nodeAt({ kind: 'road', id: connectingRoad, at }, numberOf(link, 'to'))
        const id = numberOf(link, 'from')
        for (const atEnd of [true, false]) {
          const end = atEnd ? from.successor : from.predecessor
          if (end?.kind !== 'junction' || end.id !== junction.attributes.id) continue
          const own = nodeAt({ kind: 'road', id: from.id, at: atEnd ? 'end' : 'start' }, id)
          // Only those that lead into the junction.
          if (own && own.lane.along === atEnd) join(own, to)
        }
      }
    }
  return out
}

function mapOf(
  root: Element,
  roads: ReadonlyMap<string, OpenRoad>,
  nodes: ReadonlyMap<string, Node>,
  out: ReadonlyMap<string, ReadonlySet<string>>,
  repairs: string[],
): LaneMap {
  const into = new Map<string, string[]>()
  for (const [from, all] of out) for (const to of all) into.set(to, [...(into.get(to) ?? []), from])
  const inside = (key: string) => nodes.get(key)!.road.junction !== undefined
  // Sections of one road that only go on into one another are one lane.
  const goesOn = (key: string): string | undefined => {
    const [next, more] = out.get(key)!
    if (next === undefined || more !== undefined || into.get(next)!.length > 1) return undefined
    return nodes.get(next)!.road === nodes.get(key)!.road ? next : undefined
  }
  const begun = new Set([...nodes.keys()].map(goesOn).filter((key) => key !== undefined))
  const lanes = new Map<string, { first: string; last: string; points: Point3[]; noChange: MapLane['noChange'] }>()
  const laneOf = new Map<string, string>()
  for (const key of nodes.keys()) {
    if (inside(key) || begun.has(key)) continue
    const whole = { first: key, last: key, points: [] as Point3[], noChange: [] as MapLane['noChange'] }
    let run = 0
    for (let at: string | undefined = key; at !== undefined && !laneOf.has(at); at = goesOn(at)) {
      const { lane } = nodes.get(at)!
      whole.points.push(...(whole.points.length > 0 ? lane.points.slice(1) : lane.points))
      for (const s of lane.noChange) whole.noChange.push({ ...s, fromM: run + s.fromM, toM: run + s.toM })
      run += lengthOf(lane.points)
      whole.last = at
      laneOf.set(at, key)
    }
    lanes.set(key, whole)
  }
  const all = [...lanes.values()].flatMap(({ points }) => points)
  if (all.length === 0) throw new FormatError('', 'has no lane outside of its junctions')
  const box = boxOf(all)
  const middle: Point2 = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2]
  const moved = (p: Point3): Point3 => [toMillimetre(p[0] - middle[0]), toMillimetre(p[1] - middle[1]), p[2]]
  const joins: LaneMap['joins'][number][] = []
  /** The roads through junctions a join leads along. */
  const along: ReadonlySet<string>[] = []
  for (const [key, { last }] of lanes) {
    // On through junctions, as far as where a lane begins outside.
    const walk = (at: string, way: readonly Point3[], seen: readonly string[]): void => {
      for (const next of out.get(at)!) {
        if (seen.includes(next) || joins.length >= FORMAT_LIMITS.features) continue
        const { lane } = nodes.get(next)!
        if (inside(next)) walk(next, [...way, ...lane.points.slice(way.length > 0 ? 1 : 0)], [...seen, next])
        else if (lanes.has(next)) {
          const points = way.length > 1 ? way.map(moved) : undefined
          if (joins.some((j) => j.from === key && j.to === next)) continue
          joins.push({ from: key, to: next, way: points })
          along.push(new Set(seen.slice(1).map((node) => nodes.get(node)!.road.id)))
        }
      }
    }
    walk(last, [], [last])
  }
  const used = new Set(joins.flatMap((j) => [j.from, j.to]))
  const found = [...lanes].map(([key, { points, noChange }]): MapLane => {
    const { road, lane } = nodes.get(key)!
    const kept = plain(points)
    const side = lane.id > 0 ? 'left' : 'right'
    const name = `${(road.name || `Road ${road.id}`).slice(0, 180)} ${side} ${Math.abs(lane.id)}`
    const { use, widthM, speedLimitMps } = lane
    return { key, name, use, points: kept.map(moved), widthM, speedLimitMps, noChange: noChange.slice(0, 50) }
  })
  const lost = [...roads.values()].filter((r) => r.junction !== undefined && r.sections.flat().length > 0).length
  if (lost > 0 && used.size === 0) repairs.push(`no way leads through the ${lost} roads inside of junctions`)
  tellStraying(found, joins, repairs)
  const lefts = new Set([...roads.values()].map((r) => r.left))
  return {
    lanes: found,
    joins,
    priorities: prioritiesOf(root, along),
    junctions: junctionsOf(root, roads, middle),
    drivesOn: lefts.size > 1 ? undefined : lefts.has(true) ? 'left' : 'right',
    repairs: repairs.slice(0, MOST_REPAIRS),
    wide: [box.maxX - box.minX, box.maxY - box.minY],
  }
}

/** The places of a line by which it is told, on the map and in height. */
function plain(points: readonly Point3[]): readonly Point3[] {
  const rises: number[] = []
  points.forEach(([x, y, z], k) => {
    const run = k === 0 ? 0 : rises[2 * k - 2] + exact.hypot(x - points[k - 1][0], y - points[k - 1][1])
    rises.push(run, z)
  })
  const flat = points.flatMap((p) => [p[0], p[1]])
  const kept = new Set([...simplifyLine(flat, PLAIN_M), ...simplifyLine(rises, PLAIN_M)])
  return points.filter((_, k) => kept.has(k))
}

const lengthOf = (points: readonly Point3[]): number =>
  points.reduce((m, p, k) => (k === 0 ? 0 : m + exact.hypot(p[0] - points[k - 1][0], p[1] - points[k - 1][1])), 0)

/** Says by how much ways through junctions are laid otherwise than they are drawn in the file. */
function tellStraying(lanes: readonly MapLane[], joins: LaneMap['joins'], repairs: string[]): void {
  const byKey = new Map(lanes.map((l) => [l.key, l.points]))
  const rad = (a: Point3, b: Point3) => exact.atan2(b[1] - a[1], b[0] - a[0])
  let [worst, count] = [0, 0]
  for (const { from, to, way } of joins) {
    if (!way) continue
    const [a, b] = [byKey.get(from)!, byKey.get(to)!]
    const [end, start] = [a[a.length - 1], b[0]]
    const ours = turningLine({ at: end, rad: rad(a[a.length - 2], end) }, { at: start, rad: rad(start, b[1]) })
    const m = Math.max(...ours.map(([x, y]) => distanceToLine(way, x, y)))
    if (m > STRAYS_M) count++
    worst = Math.max(worst, m)
  }
  if (count > 0) repairs.push(`${count} of ${joins.length} ways through junctions are laid otherwise than drawn, by ${worst.toFixed(1)} m at most`) // prettier-ignore
}

/** Which join gives way to which, by the roads through junctions of which the file says that one has priority over the other. */
function prioritiesOf(root: Element, along: readonly ReadonlySet<string>[]): LaneMap['priorities'] {
  const by = new Map<string, number[]>()
  along.forEach((roads, k) => roads.forEach((road) => by.set(road, [...(by.get(road) ?? []), k])))
  const told = partsNamed(root, 'junction').flatMap((junction) => partsNamed(junction, 'priority'))
  const found = told.flatMap(({ attributes: { high, low } }) =>
    (by.get(low ?? '') ?? []).flatMap((waits) =>
      (by.get(high ?? '') ?? []).flatMap((goes) => (goes === waits ? [] : [{ waits, goes }])),
    ),
  )
  return found.slice(0, FORMAT_LIMITS.features)
}

/** Where junctions are, by the roads through them, and whether signals that change stand near. */
function junctionsOf(root: Element, roads: ReadonlyMap<string, OpenRoad>, middle: Point2): LaneMap['junctions'] {
  const lights = partsNamed(root, 'road').flatMap((element) =>
    partsNamed(partNamed(element, 'signals'), 'signal').flatMap((signal): Point2[] => {
      if (signal.attributes.dynamic !== 'yes') return []
      const { x, y, rad } = roads.get(element.attributes.id)!.line.at(numberOf(signal, 's'))
      const t = numberOf(signal, 't', 0)
      return [[x - t * exact.sin(rad), y + t * exact.cos(rad)]]
    }),
  )
  return partsNamed(root, 'junction').flatMap((junction) => {
    const through = [...roads.values()].filter((r) => r.junction === junction.attributes.id)
    const points = through.flatMap((r) => r.sections.flat().flatMap((l) => l.points))
    if (points.length === 0) return []
    const box = boxOf(points)
    const lit = lights.some(([x, y]) => x > box.minX - LIT_M && x < box.maxX + LIT_M && y > box.minY - LIT_M && y < box.maxY + LIT_M) // prettier-ignore
    const at: Point2 = [(box.minX + box.maxX) / 2 - middle[0], (box.minY + box.maxY) / 2 - middle[1]]
    return [
      {
        name: (junction.attributes.name ?? '').slice(0, 200),
        at,
        lit: lit || partsNamed(junction, 'controller').length > 0,
      },
    ]
  })
}
/** Signals stand for a junction this near to it, metres. */
const LIT_M = 8
