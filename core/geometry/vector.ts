import { hypot } from './exact'

/** A place on the map: x east, y north, metres. */
export type Point2 = readonly [x: number, y: number]
/** A place in the level: x east, y north, z up, metres. */
export type Point3 = readonly [x: number, y: number, z: number]

/** Distance over the map between two places, in metres; heights are ignored. */
export function distance2(a: readonly number[], b: readonly number[]): number {
  return hypot(b[0] - a[0], b[1] - a[1])
}

/** Straight distance between two places, in metres. */
export function distance3(a: Point3, b: Point3): number {
  return hypot(hypot(b[0] - a[0], b[1] - a[1]), b[2] - a[2])
}

/** The z of the cross product of (b − a) and (c − a): positive when a, b, c turn left. Square metres. */
export function turn(a: readonly number[], b: readonly number[], c: readonly number[]): number {
  return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])
}

/** The place a share of the way from a to b, heights included. */
export function mix3(a: Point3, b: Point3, share: number): Point3 {
  return [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share, a[2] + (b[2] - a[2]) * share]
}

/** Do the closed segments a–b and c–d share a point? */
export function segmentsMeet(
  a: readonly number[],
  b: readonly number[],
  c: readonly number[],
  d: readonly number[],
): boolean {
  const abc = turn(a, b, c)
  const abd = turn(a, b, d)
  const cda = turn(c, d, a)
  const cdb = turn(c, d, b)
  if (abc * abd < 0 && cda * cdb < 0) return true
  const within = (p: readonly number[], q: readonly number[], r: readonly number[]) =>
    Math.min(p[0], q[0]) <= r[0] &&
    r[0] <= Math.max(p[0], q[0]) &&
    Math.min(p[1], q[1]) <= r[1] &&
    r[1] <= Math.max(p[1], q[1])
  return (
    (abc === 0 && within(a, b, c)) ||
    (abd === 0 && within(a, b, d)) ||
    (cda === 0 && within(c, d, a)) ||
    (cdb === 0 && within(c, d, b))
  )
}
