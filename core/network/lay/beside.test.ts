import { distance2, smoothPieces, type Point3 } from '@tidytrail/core/geometry'
import { chance, withRoutes, type Place } from '@tidytrail/core/testing'
import { describe, expect, it } from 'vitest'
import { besideRoute } from '.'

type Line = readonly (readonly number[])[]

/** Distance from a place to a line, told in the slowest and plainest way. */
function farFrom([x, y]: readonly number[], line: Line): number {
  let m = Infinity
  for (let i = 1; i < line.length; i++) {
    const [[ax, ay], [bx, by]] = [line[i - 1], line[i]]
    const l2 = (bx - ax) ** 2 + (by - ay) ** 2
    const t = l2 === 0 ? 0 : Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / l2))
    m = Math.min(m, Math.hypot(x - ax - t * (bx - ax), y - ay - t * (by - ay)))
  }
  return m
}
const smoothLine = (
  points: readonly Point3[],
  closed: boolean,
  tension = 0,
  sharp: (n: number) => boolean = () => false,
) => smoothPieces(points, { closed, tension, sharp, everyM: 0.06 }).flat()

/** A copy beside a route, with the line of each as it would be drawn. */
function copied(
  at: Place[],
  m: number,
  more: { travel?: 'round' | 'one-way'; curve?: 'smooth' | 'straight'; tension?: number } = {},
) {
  const { travel = 'one-way', curve = 'smooth', tension = 0 } = more
  const level = withRoutes({ a: { at, travel, legs: 'drawn', curve, tension } })
  const made = besideRoute(level.routes.rt_a, level.waypoints, m)
  const closed = travel === 'round'
  const places = made.stops.map((s) => s.at)
  const ring = (line: readonly Point3[]) => (closed ? [...line, line[0]] : line)
  return curve === 'smooth'
    ? {
        ...made,
        line: smoothLine(places, closed, tension, (i) => made.stops[i].sharp),
        of: smoothLine(at, closed, tension),
      }
    : { ...made, line: ring(places), of: ring(at) }
}
/** How far a copy comes from its distance, both ways, metres. */
function strays({ line, of }: { line: Line; of: Line }, m: number): [number, number] {
  const far = line.map((p) => farFrom(p, of) - Math.abs(m))
  return [Math.min(...far), Math.max(...far)]
}

describe('a copy beside a smooth line', () => {
  const angles: Place[] = [
    [10, 10, 0],
    [40, 10, 0],
    [40, 40, 0],
    [70, 40, 0],
    [70, 10, 0],
  ]
  const hairpin: Place[] = [
    [10, 10, 0],
    [30, 10, 0],
    [50, 11, 0],
    [54, 15, 0],
    [50, 19, 0],
    [30, 20, 0],
    [10, 20, 0],
  ]
  it.each([3, -3, 1, -0.4, 5])('keeps %f m to within two centimetres round right angles', (m) => {
    const made = copied(angles, m)
    const [near, far] = strays(made, m)
    expect(near).toBeGreaterThan(-0.02)
    expect(far).toBeLessThan(0.02)
    expect(made.lost).toEqual([])
  })

  it.each([3, -3, 2])('keeps %f m in a hairpin', (m) => {
    const [near, far] = strays(copied(hairpin, m), m)
    expect(near).toBeGreaterThan(-0.02)
    expect(far).toBeLessThan(0.02)
  })

  it('cuts the loop on the inside of a bend that is tighter than the distance, and says where', () => {
    const tight: Place[] = [
      [10, 40, 0],
      [40, 40, 0],
      [41, 41, 0],
      [41, 70, 0],
    ]
    const made = copied(tight, 4)
    expect(made.cut).toHaveLength(1)
    expect(distance2(made.cut[0], [37, 44])).toBeLessThan(1)
    const [near, far] = strays(made, 4)
    expect(near).toBeGreaterThan(-0.02)
    expect(far).toBeLessThan(0.02)
    expect(copied(tight, -4).cut).toEqual([])
  })

  it('says where there is no room for it, where the two sides of a bend are nearer than the distance', () => {
    const made = copied(hairpin, 7)
    expect(made.lost.length).toBeGreaterThan(0)
    for (const at of made.lost) expect(farFrom(at, made.of)).toBeLessThan(0.01)
    expect(copied(hairpin, -7).lost).toEqual([])
  })

  it('goes round a round, and keeps one stop for each where that is enough', () => {
    const ring = Array.from({ length: 12 }, (_, k): Place => [
      50 + 20 * Math.cos((k * Math.PI) / 6),
      30 + 20 * Math.sin((k * Math.PI) / 6),
      0,
    ])
    for (const m of [3, -3]) {
      const made = copied(ring, m, { travel: 'round' })
      const [near, far] = strays(made, m)
      expect(near).toBeGreaterThan(-0.02)
      expect(far).toBeLessThan(0.02)
      expect(made.stops).toHaveLength(12)
    }
  })

  it('keeps its distance from thousands of metres of lines made up by chance', () => {
    const next = chance(9)
    let [worst, metres] = [0, 0]
    for (let k = 0; k < 30; k++) {
      // Lines that wind but do not come back: what comes back meets its own copy.
      const at: Place[] = []
      let [x, y] = [10, 30]
      for (let i = 0; i < 8; i++) {
        at.push([x, y, 0])
        x += 8 + next() * 10
        y += (next() - 0.5) * 12
      }
      const m = (next() < 0.5 ? -1 : 1) * (0.5 + next() * 3)
      const made = copied(at, m, { tension: next() < 0.3 ? next() : 0 })
      if (made.lost.length > 0) continue
      const [near, far] = strays(made, m)
      worst = Math.max(worst, -near, far)
      metres += made.line.reduce((sum, p, i) => (i === 0 ? 0 : sum + distance2(p, made.line[i - 1])), 0)
    }
    console.info(`copies beside ${metres.toFixed(0)} m of smooth lines stray ${(worst * 1000).toFixed(0)} mm at most`)
    expect(metres).toBeGreaterThan(2000)
    expect(worst).toBeLessThan(0.02)
  })
})

describe('a copy beside straight legs', () => {
  it('has a stop for each stop, as far from both legs', () => {
    const at: Place[] = [
      [10, 10, 0],
      [40, 10, 2],
      [40, 40, 0],
    ]
    expect(copied(at, 3, { curve: 'straight' }).stops.map((s) => s.at)).toEqual([
      [10, 13, 0],
      [37, 13, 2],
      [37, 40, 0],
    ])
  })

  it('loses a leg that is too short for the inside of its bends, and squares an end too sharp to be carried out', () => {
    const short: Place[] = [
      [10, 10, 0],
      [40, 10, 0],
      [42, 12, 0],
      [42, 50, 0],
    ]
    const inside = copied(short, 5, { curve: 'straight' })
    expect(inside.stops.map((s) => s.at.slice(0, 2).map((v) => Math.round(v * 100) / 100))).toEqual([
      [10, 15],
      [37, 15],
      [37, 50],
    ])
    const spike: Place[] = [
      [10, 10, 0],
      [40, 10, 0],
      [10, 11, 0],
    ]
    const round = copied(spike, -2, { curve: 'straight' })
    expect(round.stops.length).toBe(4)
    for (const { at } of round.stops) expect(farFrom(at, round.of)).toBeGreaterThan(1.98)
  })
})
