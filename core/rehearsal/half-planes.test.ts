import { chance } from '@tidytrail/core/testing'
import fc from 'fast-check'
import { expect, it } from 'vitest'
import { HalfPlanes } from './half-planes'
import { Neighbours } from './neighbours'

type Plane = [number, number, number, number]
const plane = fc
  .tuple(
    fc.double({ min: -2, max: 2, noNaN: true }),
    fc.double({ min: -2, max: 2, noNaN: true }),
    fc.double({ min: 0, max: 6.28, noNaN: true }),
  )
  .map(([x, y, a]): Plane => [x, y, Math.cos(a), Math.sin(a)])
const inside = ([px, py, dx, dy]: Plane, x: number, y: number) => dx * (y - py) - dy * (x - px)

it('finds the nearest velocity that keeps all half-planes, as trying many does', () => {
  fc.assert(
    fc.property(fc.array(plane, { maxLength: 6 }), plane, (planes, [wx, wy]) => {
      const solver = new HalfPlanes()
      for (const p of planes) solver.add(...p)
      solver.solve(wx, wy, 2)
      expect(Math.hypot(solver.x, solver.y)).toBeLessThanOrEqual(2 + 1e-6)
      let best = Infinity
      let least = Infinity
      for (let i = -40; i <= 40; i++)
        for (let j = -40; j <= 40; j++) {
          const [x, y] = [i / 20, j / 20]
          if (Math.hypot(x, y) > 2) continue
          const broken = Math.max(0, ...planes.map((p) => -inside(p, x, y)))
          least = Math.min(least, broken)
          if (broken === 0) best = Math.min(best, Math.hypot(x - wx, y - wy))
        }
      const broken = Math.max(0, ...planes.map((p) => -inside(p, solver.x, solver.y)))
      if (best < Infinity) {
        expect(broken).toBeLessThan(1e-6)
        expect(Math.hypot(solver.x - wx, solver.y - wy)).toBeLessThanOrEqual(best + 1e-6)
      } else expect(broken).toBeLessThanOrEqual(least + 1e-6)
    }),
    { numRuns: 300 },
  )
})

it('breaks none that must hold, whatever the others ask', () => {
  fc.assert(
    fc.property(fc.array(plane, { minLength: 1, maxLength: 6 }), (others) => {
      const solver = new HalfPlanes()
      const wall: Plane = [0, 0.2, 1, 0]
      solver.add(...wall, true)
      for (const p of others) solver.add(...p)
      solver.solve(0, -1, 2)
      expect(inside(wall, solver.x, solver.y)).toBeGreaterThan(-1e-6)
    }),
  )
})

it('tells of everybody near, once, and of nobody who is left out', () => {
  const next = chance(4)
  for (const n of [0, 1, 50, 400]) {
    const x = Float64Array.from({ length: n }, () => next() * 60)
    const y = Float64Array.from({ length: n }, () => next() * (n === 50 ? 4000 : 30))
    const skip = (k: number) => k % 7 === 3
    const grid = new Neighbours()
    for (const side of [1, 3]) {
      grid.sort(
        n,
        x,
        y,
        Array.from({ length: n }, (_, k) => (skip(k) ? 0 : k + 1)),
        side,
      )
      for (let k = 0; k < 40; k++) {
        const [px, py, m] = [next() * 60, next() * 30, next() * 6]
        const found = [...grid.found.subarray(0, grid.about(px, py, m))]
        expect(new Set(found).size).toBe(found.length)
        const near = [...x.keys()].filter((b) => !skip(b) && Math.hypot(x[b] - px, y[b] - py) <= m)
        expect(found).toEqual(expect.arrayContaining(near))
        expect(found.some(skip)).toBe(false)
      }
    }
  }
})
