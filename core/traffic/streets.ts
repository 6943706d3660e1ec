import { boxOf, distance2, type Point2, type Point3 } from '@tidytrail/core/geometry'
import {
  addAndSet,
  addLinks,
  addThings,
  freshName,
  freshNameFor,
  junctionSchema,
  roadSchema,
  type EditResult,
  type IdKind,
  type Level,
} from '@tidytrail/core/level'
import { suggestJoins } from './joins'
import { partOf as part } from './conflicts'
import { measured } from './measured-line'
import { laneNet } from './net'
import { roundaboutAt } from './roundabout'
import { suggestJunctions } from './suggest-junctions'
import { usualPhases } from './usual-phases'
import { usualYields } from './yields'

/** A street between two places where it meets others or ends. Metres, metres a second. */
export interface Street {
  readonly name: string
  readonly points: readonly Point2[]
  /** What its ends are called: streets whose ends are called the same meet there. */
  readonly startKey: string
  readonly endKey: string
  readonly ahead: number
  readonly back: number
  readonly speedLimitMps: number | null
  readonly pavementLeftM: number
  readonly pavementRightM: number
}

/** The streets of a place, as they are read from a file. */
export interface StreetMap {
  readonly streets: readonly Street[]
  readonly rings: readonly {
    readonly name: string
    readonly points: readonly Point2[]
    readonly keys: readonly string[]
    readonly lanes: number
  }[]
  /** Where signals stand. */
  readonly signals: readonly Point2[]
  readonly repairs: readonly string[]
  readonly wide: readonly [number, number]
}

const LANE_M = 3.25
const RING_LANE_M = 4
/** So far is left free before the middle of a junction beyond half the widest street, and where a street only goes on, metres. */
const SETBACK_M = 7
const GOES_ON_M = 1.5
/** A street keeps at least this much of its length, metres, or else is left out. */
const LEAST_M = 6
/** Roads end so far outside of a ring, metres. */
const OUTSIDE_M = 9
/** Signals stand for the junction this near to them, metres. */
const SIGNALS_M = 30

export type Ids = (kind: IdKind) => string
export type Step = (level: Level) => EditResult

/**
 * The edits that lay streets as roads of the level: each road, then rings, the joins that fit, and junctions with who
 * goes first, or signals where those stand.
 * @param zAt height of the ground at a place
 * @returns with what could not be laid
 */
export function layStreets(
  map: StreetMap,
  shift: Point2,
  newId: Ids,
  zAt: (x: number, y: number) => number,
): { steps: Step[]; repairs: string[] } {
  const repairs: string[] = []
  const moved = ([x, y]: Point2): Point3 => [x + shift[0], y + shift[1], 0]
  const rings = map.rings.map((ring) => {
    const places = ring.points.map(moved)
    const n = places.length
    const at: Point2 = [places.reduce((s, p) => s + p[0], 0) / n, places.reduce((s, p) => s + p[1], 0) / n]
    const radiusM = Math.max(6, places.reduce((s, p) => s + distance2(p, [at[0], at[1], 0]), 0) / n)
    return { ...ring, at, radiusM }
  })
  for (const { name, lanes } of map.rings)
    if (lanes > 1) repairs.push(`${name || 'a roundabout'} has ${lanes} lanes, and is laid with one`)
  const ringOf = new Map(rings.flatMap((ring) => ring.keys.map((key) => [key, ring] as const)))
  const ends = new Map<string, { wide: number; count: number }>()
  const streets = chained(map.streets, ringOf)
  const wideOf = (s: Street) => ((s.ahead + s.back) * LANE_M) / 2
  for (const street of streets)
    for (const key of [street.startKey, street.endKey]) {
      const end = ends.get(key)
      ends.set(key, { wide: Math.max(end?.wide ?? 0, wideOf(street)), count: (end?.count ?? 0) + 1 })
    }
  const setback = (key: string): number => {
    const ring = ringOf.get(key)
    if (ring) return OUTSIDE_M
    const { wide, count } = ends.get(key)!
    return count < 2 ? 0 : count === 2 ? GOES_ON_M : SETBACK_M + wide
  }
  const steps: Step[] = []
  const things: { in: 'roads'; id: string; thing: unknown }[] = []
  const named: Level['roads'] = {}
  for (const street of streets) {
    const line = measured(street.points.map(moved))
    const { lengthM } = line
    let [from, to] = [setback(street.startKey), setback(street.endKey)]
    const room = lengthM - LEAST_M
    if (from + to > room) {
      if (room < 1) {
        repairs.push(`${street.name || 'a street'} of ${lengthM.toFixed(1)} m is too short to be a road`)
        continue
      }
      ;[from, to] = [(from * room) / (from + to), (to * room) / (from + to)]
    }
    const { places } = part(line, { fromM: from, toM: lengthM - to })
    const points = places.map(([x, y]): Point3 => [x, y, zAt(x, y)].map((v) => Math.round(v * 1000) / 1000) as never)
    const name = freshName(named, street.name || 'Street')
    const { ahead, back, speedLimitMps, pavementLeftM, pavementRightM } = street
    const thing = roadSchema.parse({
      name,
      points,
      curve: points.length > 2 ? 'smooth' : 'straight',
      laneM: LANE_M,
      ahead,
      back,
      speedLimitMps,
      pavementLeftM,
      pavementRightM,
    })
    named[name] = thing
    things.push({ in: 'roads', id: newId('roads'), thing })
  }
  if (things.length > 0) steps.push((level) => addThings.apply(level, { things, label: '' }))
  for (const ring of rings) {
    const laneId = newId('routes')
    const junctionId = newId('junctions')
    steps.push((level) => {
      const at: [number, number, number] = [ring.at[0], ring.at[1], zAt(ring.at[0], ring.at[1])]
      const name = freshName(level.routes, ring.name || 'Ring')
      const made = roundaboutAt(level, { at, radiusM: ring.radiusM, widthM: RING_LANE_M, name, laneId, junctionId })
      if ('why' in made) {
        repairs.push(`${name} could not be laid: ${made.why}`)
        return { level, patch: [], inverse: [] }
      }
      return addAndSet.apply(level, { add: made.add, set: [], label: '' })
    })
  }
  steps.push((level) => {
    const links = suggestJoins(laneNet(level), level.settings.drivesOn).map((s) => ({
      id: newId('links'),
      fromId: s.fromWaypointId,
      toId: s.toWaypointId,
      twoWay: false,
    }))
    return addLinks.apply(level, { links })
  })
  steps.push(
    junctionsAt((middle) => ({ lit: map.signals.some((p) => distance2(moved(p), middle) < SIGNALS_M) }), newId),
  )
  return { steps, repairs }
}

/**
 * The edit that makes every junction that is missing, with who goes first, or with signals.
 * @param told of one by its middle: is it lit, and what it is called
 */
export function junctionsAt(told: (middle: Point3) => { lit: boolean; name?: string }, newId: Ids): Step {
  return (level) => {
    const net = laneNet(level)
    const names = { ...level.junctions }
    const made = suggestJunctions(level, net).map(({ ring }) => {
      const box = boxOf(ring)
      const { lit, name } = told([(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2, 0])
      const bare = junctionSchema.parse({
        name: name ? freshNameFor(names, name) : freshName(names, 'Junction'),
        ring: ring.map(([x, y]) => [Math.round(x * 100) / 100, Math.round(y * 100) / 100]),
        control: lit ? 'signals' : 'give-way',
      })
      const phases = lit ? usualPhases(level, net, bare) : []
      const thing = { ...bare, phases, yields: usualYields(level, net, { ...bare, phases }) }
      const id = newId('junctions')
      names[id] = thing
      return { in: 'junctions' as const, id, thing }
    })
    return addThings.apply(level, { things: made, label: '' })
  }
}

/** Streets that only go on into one another, alike in all they are, as one. */
function chained(streets: readonly Street[], ringOf: ReadonlyMap<string, unknown>): Street[] {
  const at = new Map<string, Street[]>()
  for (const s of streets) for (const key of [s.startKey, s.endKey]) at.set(key, [...(at.get(key) ?? []), s])
  const alike = (a: Street, b: Street) =>
    a.name === b.name &&
    a.ahead === b.ahead &&
    a.back === b.back &&
    a.speedLimitMps === b.speedLimitMps &&
    a.pavementLeftM === b.pavementLeftM &&
    a.pavementRightM === b.pavementRightM
  const next = (s: Street): Street | undefined => {
    const here = at.get(s.endKey)!
    const [a, b] = here
    if (here.length !== 2 || a === b || ringOf.has(s.endKey)) return undefined
    const other = a === s ? b : a
    return other.startKey === s.endKey && alike(s, other) ? other : undefined
  }
  const follows = new Set<Street>()
  for (const s of streets) {
    const other = next(s)
    if (other) follows.add(other)
  }
  const done = new Set<Street>()
  const all: Street[] = []
  const from = (first: Street): void => {
    let whole = first
    done.add(first)
    for (let s = next(first); s && !done.has(s); s = next(s)) {
      done.add(s)
      whole = { ...whole, points: [...whole.points, ...s.points.slice(1)], endKey: s.endKey }
    }
    all.push(whole)
  }
  for (const s of streets) if (!follows.has(s)) from(s)
  // What is left goes round and comes back to where it began.
  for (const s of streets) if (!done.has(s)) from(s)
  return all
}
