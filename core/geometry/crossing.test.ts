import fc from 'fast-check'
import { expect, it } from 'vitest'
import { ringCrossing, turn, type Point2 } from '.'

const place = fc.tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 0, max: 40 }))

/** Every side against every other that is not its neighbour. */
function crossesSlowly(ring: readonly Point2[]): boolean {
  const n = ring.length
  const at = (k: number) => ring[k % n]
  for (let i = 0; i < n; i++) {
    for (let j = i + 2; j < n; j++) {
      if (i === 0 && j === n - 1) continue
      const [a, b, c, d] = [at(i), at(i + 1), at(j), at(j + 1)]
      if (turn(a, b, c) * turn(a, b, d) < 0 && turn(c, d, a) * turn(c, d, b) < 0) return true
    }
  }
  return false
}

it('a ring crosses itself exactly when some two of its sides do, and there', () => {
  fc.assert(
    fc.property(fc.array(place, { minLength: 3, maxLength: 14 }), (ring) => {
      const at = ringCrossing(ring)
      expect(at !== undefined).toBe(crossesSlowly(ring))
      if (!at) return
      // The place lies on two sides at least.
      const on = ring.filter((a, i) => {
        const b = ring[(i + 1) % ring.length]
        const length = Math.hypot(b[0] - a[0], b[1] - a[1])
        const off = length === 0 ? Infinity : Math.abs(turn(a, b, at)) / length
        const along = (at[0] - a[0]) * (b[0] - a[0]) + (at[1] - a[1]) * (b[1] - a[1])
        return off < 1e-6 && along >= -1e-6 && along <= length * length + 1e-6
      })
      expect(on.length).toBeGreaterThanOrEqual(2)
    }),
    { numRuns: 400 },
  )
})
