import { exact } from '@tidytrail/core/geometry'
import { FormatError } from '../error'
import { FORMAT_LIMITS } from '../limits'
import { lineOf } from '../xml'
import { numberOf, partNamed, partsNamed, type Element } from './tree'

/** A place on the line a road is measured along, and its direction there. Metres, radians counterclockwise from east. */
export interface Spot {
  readonly x: number
  readonly y: number
  readonly rad: number
}

/** One piece of it: from `s` on, as long as it is. */
export interface Geometry {
  readonly s: number
  readonly lengthM: number
  /** How tightly it bends at most, one by metres: it is followed so finely. */
  readonly bend: number
  /** The place so far along this piece. */
  at(m: number): Spot
}

/** A piecewise cubic: `a + b·d + c·d² + e·d³` from each `s` on, d metres beyond it. */
export interface Cubic {
  readonly s: number
  readonly a: number
  readonly b: number
  readonly c: number
  readonly e: number
}

export const cubicOf = (of: Element, s: string): Cubic => ({
  s: numberOf(of, s),
  a: numberOf(of, 'a'),
  b: numberOf(of, 'b', 0),
  c: numberOf(of, 'c', 0),
  e: numberOf(of, 'd', 0),
})

/** What a piecewise cubic is so far along; 0 where there is none. */
export function cubicAt(all: readonly Cubic[], s: number): number {
  let k = all.length - 1
  while (k > 0 && all[k].s > s + 1e-9) k--
  const of = all[k]
  if (!of) return 0
  const d = s - of.s
  return of.a + d * (of.b + d * (of.c + d * of.e))
}

/** Nodes and weights of Gauss and Legendre with five places, on −1 to 1 (Abramowitz and Stegun 1964, table 25.4). */
const GAUSS = [
  [0, 0.5688888888888889],
  [0.5384693101056831, 0.47862867049936647],
  [-0.5384693101056831, 0.47862867049936647],
  [0.906179845938664, 0.23692688505618908],
  [-0.906179845938664, 0.23692688505618908],
] as const

/** The integral of a function over a stretch, in so many parts. */
function integral(f: (u: number) => number, to: number, parts: number): number {
  let sum = 0
  const half = to / parts / 2
  for (let k = 0; k < parts; k++) for (const [u, w] of GAUSS) sum += w * f((2 * k + 1 + u) * half)
  return sum * half
}

/** A clothoid turns by its curvature, which grows evenly: no closed form, so that it is integrated (in parts of a fifth of a radian at most). */
function spiral(start: Spot, length: number, k0: number, k1: number, m: number): Spot {
  const slope = length > 0 ? (k1 - k0) / length : 0
  const turned = (u: number) => start.rad + k0 * u + (slope * u * u) / 2
  const parts = Math.max(1, Math.ceil((Math.max(Math.abs(k0), Math.abs(k1)) * m) / 0.2))
  return {
    x: start.x + integral((u) => exact.cos(turned(u)), m, parts),
    y: start.y + integral((u) => exact.sin(turned(u)), m, parts),
    rad: turned(m),
  }
}

function arc(start: Spot, k: number, m: number): Spot {
  if (Math.abs(k) < 1e-12) return line(start, m)
  const rad = start.rad + k * m
  return {
    x: start.x + (exact.sin(rad) - exact.sin(start.rad)) / k,
    y: start.y - (exact.cos(rad) - exact.cos(start.rad)) / k,
    rad,
  }
}

const line = ({ x, y, rad }: Spot, m: number): Spot => ({ x: x + m * exact.cos(rad), y: y + m * exact.sin(rad), rad })

/** From a place in the piece's own frame to the map. */
const turnedBy = (start: Spot, u: number, v: number, rad: number): Spot => ({
  x: start.x + u * exact.cos(start.rad) - v * exact.sin(start.rad),
  y: start.y + u * exact.sin(start.rad) + v * exact.cos(start.rad),
  rad: start.rad + rad,
})

type Poly = readonly [number, number, number, number]
const valueOf = ([a, b, c, d]: Poly, p: number) => a + p * (b + p * (c + p * d))
const slopeOf = ([, b, c, d]: Poly, p: number) => b + p * (2 * c + p * 3 * d)

/** How far along u a cubic `v(u)` has to be followed for so many metres of its own length (Newton's method). */
function alongCubic(v: Poly, m: number): number {
  const speed = (u: number) => Math.sqrt(1 + slopeOf(v, u) ** 2)
  let u = m / speed(m / 2)
  for (let k = 0; k < 20; k++) {
    const off = integral(speed, u, 8) - m
    if (Math.abs(off) < 1e-7) break
    u -= off / speed(u)
  }
  return u
}

/**
 * A piece of the line a road is measured along, as ASAM OpenDRIVE 1.8 has them: a straight, an arc, a clothoid, a cubic
 * in its own frame or one by a parameter.
 * @throws FormatError with the line
 */
export function geometryOf(of: Element): Geometry {
  const s = numberOf(of, 's')
  const lengthM = numberOf(of, 'length')
  if (lengthM < 0) throw new FormatError(lineOf(of), 'a piece of a road is shorter than nothing')
  const start: Spot = { x: numberOf(of, 'x'), y: numberOf(of, 'y'), rad: numberOf(of, 'hdg') }
  const shape = of.parts.find((p) => SHAPES.has(p.name))
  if (!shape) throw new FormatError(lineOf(of), 'a piece of a road has no shape that is known')
  const made = (bend: number, at: (m: number) => Spot): Geometry => ({ s, lengthM, bend, at })
  switch (shape.name) {
    case 'line':
      return made(0, (m) => line(start, m))
    case 'arc': {
      const k = numberOf(shape, 'curvature')
      return made(Math.abs(k), (m) => arc(start, k, m))
    }
    case 'spiral': {
      const [k0, k1] = [numberOf(shape, 'curvStart'), numberOf(shape, 'curvEnd')]
      return made(Math.max(Math.abs(k0), Math.abs(k1)), (m) => spiral(start, lengthM, k0, k1, m))
    }
    case 'poly3': {
      const v: Poly = ['a', 'b', 'c', 'd'].map((key) => numberOf(shape, key)) as never
      return made(ANY_BEND, (m) => {
        const u = alongCubic(v, m)
        return turnedBy(start, u, valueOf(v, u), exact.atan2(slopeOf(v, u), 1))
      })
    }
    default: {
      const [u, v] = (['U', 'V'] as const).map((axis) => ['a', 'b', 'c', 'd'].map((key) => numberOf(shape, key + axis))) as never as [Poly, Poly] // prettier-ignore
      const whole = shape.attributes.pRange === 'arcLength' ? 1 : lengthM > 0 ? 1 / lengthM : 0
      return made(ANY_BEND, (m) => {
        const p = m * whole
        return turnedBy(start, valueOf(u, p), valueOf(v, p), exact.atan2(slopeOf(v, p), slopeOf(u, p)))
      })
    }
  }
}
const SHAPES = new Set(['line', 'arc', 'spiral', 'poly3', 'paramPoly3'])
/** How tightly a cubic bends is not told by it: as if it were a bend of five metres. */
const ANY_BEND = 0.2

/** The line a road is measured along. */
export interface ReferenceLine {
  readonly lengthM: number
  at(s: number): Spot & { readonly z: number }
  /** Places along it so near to each other that what lies between is as good as straight. */
  readonly stations: readonly number[]
}

/** From one station to the next it turns by no more than this, radians, and goes no farther than this, metres. */
const TURN_RAD = 0.04
const FAR_M = 12

/** @param more where else something changes along it @throws FormatError */
export function referenceLine(road: Element, more: readonly number[]): ReferenceLine {
  const plan = partsNamed(partNamed(road, 'planView'), 'geometry').map(geometryOf)
  if (plan.length === 0) throw new FormatError(lineOf(road), 'a road has no line')
  plan.sort((a, b) => a.s - b.s)
  const last = plan[plan.length - 1]
  const lengthM = last.s + last.lengthM
  const heights = partsNamed(partNamed(road, 'elevationProfile'), 'elevation').map((e) => cubicOf(e, 's'))
  const marks = new Set<number>([0, lengthM])
  for (const g of plan) {
    const count = Math.min(20_000, Math.max(1, Math.ceil(Math.max((g.lengthM * g.bend) / TURN_RAD, g.lengthM / FAR_M))))
    if (marks.size + count > FORMAT_LIMITS.cornersInAll)
      throw new FormatError(
        lineOf(road),
        `its line is longer than ${FORMAT_LIMITS.cornersInAll.toLocaleString('en')} places can tell`,
      )
    for (let k = 0; k <= count; k++) marks.add(g.s + (g.lengthM * k) / count)
  }
  for (const s of [...more, ...heights.map((h) => h.s)]) if (s > 0 && s < lengthM) marks.add(s)
  return {
    lengthM,
    stations: [...marks].sort((a, b) => a - b).filter((s, k, all) => k === 0 || s - all[k - 1] > 1e-6),
    at(s) {
      let k = plan.length - 1
      while (k > 0 && plan[k].s > s + 1e-9) k--
      return { ...plan[k].at(Math.min(Math.max(0, s - plan[k].s), plan[k].lengthM)), z: cubicAt(heights, s) }
    },
  }
}
