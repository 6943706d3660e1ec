import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Point3 } from '@tidytrail/core/geometry'
import { measured, tightBend } from '.'

const arc = (r: number, rad: number, count: number): Point3[] =>
  Array.from({ length: count + 1 }, (_, k) => [r * Math.cos((rad * k) / count), r * Math.sin((rad * k) / count), 0])

describe('a bend that is too tight', () => {
  it('is an arc smaller than the body can turn, however finely it is drawn', () => {
    fc.assert(
      fc.property(fc.double({ min: 2, max: 30, noNaN: true }), fc.integer({ min: 12, max: 80 }), (r, count) => {
        const line = measured(arc(r, Math.PI / 2, count))
        expect(tightBend(line, r * 0.97, 1)).toBeUndefined()
        expect(tightBend(line, r * 1.05, 1)!.radiusM).toBeCloseTo(r, 6)
      }),
    )
  })

  it('is a corner that cannot be rounded within the room beside it, by the circle along both its sides', () => {
    // A right angle passed half a metre inside of it: r (√2 − 1) = 0.5.
    const line = measured([[0, 0, 0], [50, 0, 0], [50, 50, 0]]) // prettier-ignore
    const r = 0.5 / (Math.SQRT2 - 1)
    expect(tightBend(line, r * 0.99, 0.5)).toBeUndefined()
    expect(tightBend(line, r * 1.03, 0.5)).toMatchObject({ at: [50, 0, 0], radiusM: expect.closeTo(r, 6) })
    // Twice the room, twice the circle.
    expect(tightBend(line, r * 1.9, 1)).toBeUndefined()
  })

  it('is told where it is tightest, and is none on a straight line', () => {
    // An ellipse of 20 by 10 bends most at its ends: with b²/a, which is 5.
    const ellipse = Array.from({ length: 161 }, (_, k): Point3 => [20 * Math.cos((k / 160) * 2 * Math.PI), 10 * Math.sin((k / 160) * 2 * Math.PI), 0]) // prettier-ignore
    const bend = tightBend(measured(ellipse), 8, 3)!
    expect(Math.abs(bend.at[0])).toBeCloseTo(20, 1)
    expect(bend.radiusM).toBeCloseTo(5, 1)
    expect(tightBend(measured([[0, 0, 0], [10, 0, 0], [20, 0, 0]]), 100, 0.1)).toBeUndefined() // prettier-ignore
  })
})
