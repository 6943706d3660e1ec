import { exact, toMillimetre, type Point3 } from '@tidytrail/core/geometry'
import type { Route } from '@tidytrail/core/level'
import { FormatError } from '../error'
import { lineOf } from '../xml'
import { cubicAt, cubicOf, referenceLine, type Cubic, type ReferenceLine } from './reference-line'
import { numberOf, partNamed, partsNamed, type Element } from './tree'

/** Kinds of lanes one drives along, and walks along. */
const DRIVEN = new Set(['driving', 'bidirectional', 'entry', 'exit', 'onRamp', 'offRamp', 'connectingRamp', 'slipLane', 'bus', 'taxi', 'HOV', 'mwyEntry', 'mwyExit', 'stop']) // prettier-ignore
const WALKED = new Set(['sidewalk', 'walking'])
/** Where it is narrower than this it is not driven along, metres. */
const NARROW_M = 1
/** What is left of it then is no lane, metres. */
const SHORT_M = 3
const NOTHING_M = 0.01
const UNITS: Readonly<Record<string, number>> = { 'm/s': 1, 'km/h': 1 / 3.6, mph: 0.44704 }

/** A lane of one section of a road. */
export interface SectionLane {
  readonly id: number
  readonly use: Route['use']
  /** Does it lead the way its road is measured? */
  readonly along: boolean
  /** In the direction it leads. */
  readonly points: readonly Point3[]
  readonly widthM: number
  readonly speedLimitMps: number | null
  readonly noChange: Route['noChange']
  /** The lanes it goes on into where the road is measured to, and from. */
  readonly successor: number | undefined
  readonly predecessor: number | undefined
}

export interface RoadEnd {
  readonly kind: 'road' | 'junction'
  readonly id: string
  readonly at: 'start' | 'end'
}

export interface OpenRoad {
  readonly id: string
  readonly name: string
  readonly junction: string | undefined
  readonly successor: RoadEnd | undefined
  readonly predecessor: RoadEnd | undefined
  readonly sections: readonly (readonly SectionLane[])[]
  readonly line: ReferenceLine
  readonly left: boolean
  /** Kinds of lanes that were left out. */
  readonly passedOver: ReadonlySet<string>
  readonly banked: boolean
}

interface Section {
  readonly from: number
  readonly to: number
  readonly of: Element
}

/** @throws FormatError with the line */
export function roadOf(of: Element): OpenRoad {
  const id = of.attributes.id
  if (id === undefined) throw new FormatError(lineOf(of), 'a road has no id')
  const lanes = partNamed(of, 'lanes')
  const found = partsNamed(lanes, 'laneSection')
  const offsets = partsNamed(lanes, 'laneOffset').map((e) => cubicOf(e, 's'))
  const begins = found.map((e) => numberOf(e, 's'))
  const widths = found.flatMap((e, k) => lanesIn(e).flatMap((l) => partsNamed(l, 'width').map((w) => begins[k] + numberOf(w, 'sOffset')))) // prettier-ignore
  const line = referenceLine(of, [...begins, ...widths, ...offsets.map((o) => o.s)])
  const left = of.attributes.rule === 'LHT'
  const passedOver = new Set<string>()
  const sections = found.map((e, k): Section => ({ of: e, from: begins[k], to: begins[k + 1] ?? line.lengthM }))
  const limits = partsNamed(of, 'type').map((t) => ({ s: numberOf(t, 's', 0), mps: limitOf(partNamed(t, 'speed')) }))
  return {
    id,
    name: of.attributes.name ?? '',
    junction: of.attributes.junction === '-1' ? undefined : of.attributes.junction,
    successor: endOf(partNamed(partNamed(of, 'link'), 'successor'), 'start'),
    predecessor: endOf(partNamed(partNamed(of, 'link'), 'predecessor'), 'end'),
    sections: sections.map((section) =>
      lanesOf(
        section,
        line,
        offsets,
        left,
        limits.findLast((l) => l.s <= section.from + 1e-6)?.mps ?? null,
        passedOver,
      ),
    ),
    line,
    left,
    passedOver,
    banked: partsNamed(partNamed(of, 'lateralProfile'), 'superelevation').some((e) => cubicOf(e, 's').a !== 0),
  }
}

function endOf(of: Element | undefined, usual: 'start' | 'end'): RoadEnd | undefined {
  const id = of?.attributes.elementId
  if (!of || id === undefined) return undefined
  const at = of.attributes.contactPoint
  return {
    kind: of.attributes.elementType === 'junction' ? 'junction' : 'road',
    id,
    at: at === 'end' || at === 'start' ? at : usual,
  }
}

/** The lanes of a section on both sides, the one in the middle too. */
const lanesIn = (section: Element): readonly Element[] =>
  ['left', 'center', 'right'].flatMap((side) => partsNamed(partNamed(section, side), 'lane'))

/** The number of a lane. @throws FormatError where it is none */
function laneId(lane: Element): number {
  const id = numberOf(lane, 'id')
  if (!Number.isInteger(id) || Math.abs(id) > MOST_LANES)
    throw new FormatError(lineOf(lane), `a lane has the id ${lane.attributes.id.slice(0, 40)}, which is no whole number up to ${MOST_LANES}`) // prettier-ignore
  return id
}
/** Most lanes on one side of a road. */
const MOST_LANES = 200

function limitOf(speed: Element | undefined): number | null {
  const max = Number(speed?.attributes.max)
  return speed && max > 0 ? max * (UNITS[speed.attributes.unit ?? 'm/s'] ?? 1) : null
}

function lanesOf(
  { of, from, to }: Section,
  line: ReferenceLine,
  offsets: readonly Cubic[],
  left: boolean,
  roadMps: number | null,
  passedOver: Set<string>,
): SectionLane[] {
  const all = new Map(lanesIn(of).map((lane) => [laneId(lane), lane]))
  const widths = new Map(
    [...all].map(([id, lane]) => [id, partsNamed(lane, 'width').map((w) => cubicOf(w, 'sOffset'))]),
  )
  const found: SectionLane[] = []
  for (const [id, lane] of all) {
    const kind = lane.attributes.type ?? 'none'
    const use = DRIVEN.has(kind) ? 'drive' : WALKED.has(kind) ? 'walk' : undefined
    if (id === 0) continue
    if (!use) {
      if (kind !== 'none') passedOver.add(kind)
      continue
    }
    const side = Math.sign(id)
    const places: Point3[] = []
    const marks: { s: number; m: number }[] = []
    let [wide, count, run] = [0, 0, 0]
    let narrow = false
    for (const s of [from, ...line.stations.filter((q) => q > from + 1e-6 && q < to - 1e-6), to]) {
      const own = cubicAt(widths.get(id)!, s - from)
      if (own < NARROW_M && use === 'drive') {
        narrow = true
        continue
      }
      let t = cubicAt(offsets, s) + (side * own) / 2
      for (let k = side; k !== id; k += side) t += side * cubicAt(widths.get(k) ?? [], s - from)
      const { x, y, z, rad } = line.at(s)
      const place: Point3 = [x - t * exact.sin(rad), y + t * exact.cos(rad), z]
      const last = places[places.length - 1]
      if (last) run += exact.hypot(place[0] - last[0], place[1] - last[1])
      marks.push({ s, m: run })
      places.push(place)
      wide += own
      count++
    }
    if (run < (narrow ? SHORT_M : NOTHING_M)) continue
    const along = left === id > 0
    // Where along the lane, as it leads, a place of the road is.
    const mAt = (s: number): number => {
      let k = 1
      while (k < marks.length - 1 && marks[k].s < s) k++
      const [a, b] = [marks[k - 1], marks[k]]
      const m = a.m + (b.m - a.m) * Math.min(1, Math.max(0, (s - a.s) / (b.s - a.s)))
      return Math.round((along ? m : run - m) * 10) / 10
    }
    const link = partNamed(lane, 'link')
    const leads = (name: string) => {
      const part = partNamed(link, name)
      return part && numberOf(part, 'id')
    }
    const points = along ? places : places.reverse()
    found.push({
      id,
      use,
      along,
      points: points.map(([x, y, z]): Point3 => [toMillimetre(x), toMillimetre(y), toMillimetre(z)]),
      widthM: Math.round((100 * wide) / count) / 100,
      speedLimitMps: limitOf(partNamed(lane, 'speed')) ?? roadMps,
      noChange: [
        ...shut(lane, side < 0 ? 'decrease' : 'increase', along === id < 0 ? 'right' : 'left', from, to, mAt),
        ...(all.has(id - side) && id !== side
          ? shut(
              all.get(id - side)!,
              side < 0 ? 'increase' : 'decrease',
              along === id < 0 ? 'left' : 'right',
              from,
              to,
              mAt,
            )
          : []),
      ].filter(({ fromM, toM }) => toM > fromM),
      successor: leads('successor'),
      predecessor: leads('predecessor'),
    })
  }
  return found
}

/** Where the marks at the outer edge of a lane do not let one over it. @param way over it as the ids of lanes go */
function shut(
  lane: Element,
  way: 'increase' | 'decrease',
  side: 'left' | 'right',
  from: number,
  to: number,
  mAt: (s: number) => number,
): Route['noChange'] {
  const marks = partsNamed(lane, 'roadMark')
  return marks.flatMap((mark, k) => {
    const may = mark.attributes.laneChange ?? ((mark.attributes.type ?? '') === 'solid' ? 'none' : 'both')
    if (may === 'both' || may === way) return []
    const begins = from + numberOf(mark, 'sOffset', 0)
    const next = marks[k + 1]
    const [p, q] = [mAt(begins), mAt(next ? from + numberOf(next, 'sOffset', 0) : to)]
    return [{ fromM: Math.min(p, q), toM: Math.max(p, q), side }]
  })
}
