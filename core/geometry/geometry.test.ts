import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  boxOf,
  climbOf,
  distanceToBox,
  distanceToLine,
  distanceToRing,
  exact,
  lengthOf,
  pointAlong,
  ringArea,
  ringCrossesItself,
  ringHolds,
  segmentsMeet,
  simplifyLine,
  wrapAngle,
  type Point2,
} from '.'

const place = fc.tuple(fc.double({ min: -100, max: 100, noNaN: true }), fc.double({ min: -100, max: 100, noNaN: true }))
const square: Point2[] = [
  [0, 0],
  [4, 0],
  [4, 3],
  [0, 3],
]

describe('trigonometry from plain arithmetic', () => {
  it('agrees with the engine’s to within a few units in the last place', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1000, max: 1000, noNaN: true }),
        fc.double({ min: -1000, max: 1000, noNaN: true }),
        (a, b) => {
          expect(exact.sin(a)).toBeCloseTo(Math.sin(a), 12)
          expect(exact.cos(a)).toBeCloseTo(Math.cos(a), 12)
          // Adding 0 makes −0 into 0: the sign of nothing is not told apart.
          expect(exact.atan2(a, b)).toBeCloseTo(Math.atan2(a + 0, b + 0), 12)
          expect(exact.hypot(a, b)).toBeCloseTo(Math.hypot(a, b), 9)
        },
      ),
    )
    expect(exact.sin(Math.PI / 6)).toBeCloseTo(0.5, 15)
    expect(exact.tan(Math.PI / 4)).toBeCloseTo(1, 14)
    expect([exact.atan2(0, -1), exact.atan2(-1, 0), exact.atan2(0, 0)]).toEqual([Math.PI, -Math.PI / 2, 0])
  })
})

describe('rings', () => {
  it('know their area, their inside and the distance to their edge', () => {
    expect(ringArea(square)).toBe(12)
    expect(ringArea([...square].reverse())).toBe(-12)
    expect(ringHolds(square, 1, 1)).toBe(true)
    expect(ringHolds(square, 5, 1)).toBe(false)
    expect(distanceToRing(square, 2, 1)).toBe(1)
    expect(distanceToRing(square, 7, 7)).toBe(5)
  })
  it('tell whether they cross themselves', () => {
    expect(ringCrossesItself(square)).toBe(false)
    expect(
      ringCrossesItself([
        [0, 0],
        [4, 4],
        [4, 0],
        [0, 4],
      ]),
    ).toBe(true)
  })
})

describe('lines', () => {
  it('are measured, climbed and walked along', () => {
    expect(
      lengthOf([
        [0, 0],
        [3, 4],
        [3, 10],
      ]),
    ).toBe(11)
    expect(
      climbOf([
        [0, 0, 0],
        [1, 0, 2],
        [2, 0, 1],
        [3, 0, 4],
      ]),
    ).toBe(5)
    expect(
      pointAlong(
        [
          [0, 0, 0],
          [10, 0, 5],
        ],
        4,
      ),
    ).toEqual([4, 0, 2])
    expect(
      pointAlong(
        [
          [0, 0, 0],
          [10, 0, 5],
        ],
        99,
      ),
    ).toEqual([10, 0, 5])
    expect(
      distanceToLine(
        [
          [0, 0],
          [10, 0],
        ],
        5,
        2,
      ),
    ).toBe(2)
  })
  it('meet when they cross, touch or overlap', () => {
    expect(segmentsMeet([0, 0], [4, 4], [0, 4], [4, 0])).toBe(true)
    expect(segmentsMeet([0, 0], [4, 0], [2, 0], [2, 5])).toBe(true)
    expect(segmentsMeet([0, 0], [4, 0], [0, 1], [4, 1])).toBe(false)
  })
  it('are thinned so that no point dropped lies beyond the tolerance', () => {
    fc.assert(
      fc.property(
        fc.array(place, { minLength: 2, maxLength: 40 }),
        fc.double({ min: 0.1, max: 20, noNaN: true }),
        (line, tolerance) => {
          const kept = simplifyLine(line.flat(), tolerance)
          expect([kept[0], kept.at(-1)]).toEqual([0, line.length - 1])
          const thin = kept.map((k) => line[k])
          for (const [x, y] of line) expect(distanceToLine(thin, x, y)).toBeLessThanOrEqual(tolerance + 1e-9)
        },
      ),
    )
  })
})

it('measures the distance to a box, and keeps angles within one turn', () => {
  const box = boxOf(square)
  expect(distanceToBox(box, 2, 2)).toBe(0)
  expect(distanceToBox(box, 7, 7)).toBe(5)
  expect(wrapAngle(3 * Math.PI)).toBeCloseTo(Math.PI, 12)
  expect(wrapAngle(-Math.PI)).toBeCloseTo(Math.PI, 12)
})

it('the power of e is that of the language to a dozen digits, and turns with its sign', () => {
  fc.assert(
    fc.property(fc.double({ min: -10, max: 10, noNaN: true }), (x) => {
      expect(exact.exp(x) / Math.exp(x)).toBeCloseTo(1, 11)
      expect(exact.exp(x) * exact.exp(-x)).toBeCloseTo(1, 11)
    }),
  )
})
