import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { besideLine, distance2, distance3, distanceToSegment, smoothPieces, spaced, turn, type Point3 } from '.'

/** Do two stretches cross by more than rounding? */
const cross = (a: Point3, b: Point3, c: Point3, d: Point3) =>
  turn(a, b, c) * turn(a, b, d) < -1e-9 && turn(c, d, a) * turn(c, d, b) < -1e-9

const coordinate = fc.double({ min: -100, max: 100, noNaN: true, noDefaultInfinity: true })
const points = fc.array(fc.tuple(coordinate, coordinate, fc.constant(0)), { minLength: 2, maxLength: 8 })

describe('a smooth line', () => {
  it('goes through its points, and crosses itself between no two of them', () => {
    fc.assert(
      fc.property(points, fc.boolean(), (given, closed) => {
        const pieces = smoothPieces(given, { closed, everyM: 8 })
        pieces.forEach((line, i) => {
          expect([line[0], line.at(-1)]).toEqual([given[i], given[(i + 1) % given.length]])
          for (let a = 1; a < line.length; a++)
            for (let b = a + 2; b < line.length; b++)
              expect(cross(line[a - 1], line[a], line[b - 1], line[b])).toBe(false)
        })
      }),
    )
  })

  it('through points on a circle stays near the circle, ever nearer the more points there are', () => {
    const worst = (n: number) => {
      const ring = Array.from({ length: n }, (_, k): Point3 => [
        10 * Math.cos((2 * Math.PI * k) / n),
        10 * Math.sin((2 * Math.PI * k) / n),
        0,
      ])
      const line = smoothPieces(ring, { closed: true, everyM: 0.1 }).flat()
      return Math.max(...line.map((p) => Math.abs(distance2(p, [0, 0]) - 10)))
    }
    expect(worst(8)).toBeLessThan(0.1)
    // The error of a cubic falls with the fourth power.
    expect(worst(8) / worst(16)).toBeGreaterThan(12)
  })

  it('is straight at full tension, along a straight row, and next to corners that stay sharp turns there', () => {
    const corner: Point3[] = [
      [0, 0, 0],
      [10, 0, 0],
      [10, 10, 2],
    ]
    for (const p of smoothPieces(corner, { tension: 1 }).flat()) expect(p[0] === 10 || p[1] === 0).toBe(true)
    const row: Point3[] = [
      [0, 0, 0],
      [3, 0, 0],
      [20, 0, 0],
    ]
    for (const p of smoothPieces(row).flat()) expect(Math.abs(p[1])).toBeLessThan(1e-12)
    for (const p of smoothPieces(corner, { sharp: (n) => n === 1 }).flat())
      expect(p[0] > 10 - 1e-9 || Math.abs(p[1]) < 1e-9).toBe(true)
  })

  it('has places no farther apart than asked once it is spaced', () => {
    fc.assert(
      fc.property(points, fc.double({ min: 0.5, max: 30, noNaN: true }), (line, everyM) => {
        const out = spaced(line, everyM)
        expect([out[0], out.at(-1)]).toEqual([line[0], line.at(-1)])
        for (let i = 1; i < out.length; i++) expect(distance3(out[i - 1], out[i])).toBeLessThanOrEqual(everyM + 1e-6)
      }),
    )
  })
})

it('a line beside a line keeps its distance from every stretch, one point for every point', () => {
  // Corners of at most about 140°, so that none is cut short.
  const zigzag = fc.array(
    fc.tuple(fc.double({ min: 5, max: 20, noNaN: true }), fc.double({ min: -2.4, max: 2.4, noNaN: true })),
    {
      minLength: 1,
      maxLength: 8,
    },
  )
  fc.assert(
    fc.property(zigzag, fc.double({ min: -3, max: 3, noNaN: true }), (steps, d) => {
      const line: [number, number][] = [[0, 0]]
      let heading = 0
      for (const [length, turn] of steps) {
        heading += turn
        const [x, y] = line.at(-1)!
        line.push([x + length * Math.cos(heading), y + length * Math.sin(heading)])
      }
      const beside = besideLine(line, d)
      expect(beside).toHaveLength(line.length)
      for (let i = 1; i < line.length; i++) {
        const [a, b] = [line[i - 1], line[i]]
        for (const p of [beside[i - 1], beside[i]]) {
          const cross = ((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])) / distance2(a, b)
          expect(cross).toBeCloseTo(d, 6)
        }
      }
      expect(distanceToSegment(...beside[0], line[0][0], line[0][1], line[0][0], line[0][1])).toBeCloseTo(
        Math.abs(d),
        6,
      )
    }),
  )
})

it('a smooth line is the same with a point given twice as with it given once', () => {
  fc.assert(
    fc.property(points, fc.nat(7), fc.boolean(), (given, which, closed) => {
      const k = which % given.length
      const twice = [...given.slice(0, k + 1), given[k], ...given.slice(k + 1)]
      fc.pre(given.every((p, i) => i === 0 || distance3(p, given[i - 1]) > 0) && distance3(given[0], given.at(-1)!) > 0)
      fc.pre(given.length > 2)
      const line = (list: Point3[]) => smoothPieces(list, { closed, everyM: 5 }).flat()
      const once = line(given)
      const doubled = line(twice)
      for (const p of doubled) expect(Math.min(...once.map((q) => distance3(p, q)))).toBeLessThan(1e-9)
      for (const p of once) expect(Math.min(...doubled.map((q) => distance3(p, q)))).toBeLessThan(1e-9)
    }),
  )
})
