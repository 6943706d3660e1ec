import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { distanceToLine, distanceToRing, ringHolds, type Point2, type Point3 } from '@tidytrail/core/geometry'
import { alongRing, alongWay, fewest, sweepArea } from '.'

const L: Point2[] = [
  [0, 0],
  [60, 0],
  [60, 20],
  [20, 20],
  [20, 50],
  [0, 50],
]
const star = fc
  .array(fc.double({ min: 8, max: 40, noNaN: true }), { minLength: 5, maxLength: 12 })
  .map((radii) =>
    radii.map((r, k): Point2 => [
      r * Math.cos((2 * Math.PI * k) / radii.length),
      r * Math.sin((2 * Math.PI * k) / radii.length),
    ]),
  )

describe('a sweep', () => {
  it.each(['lanes', 'rings'] as const)('in %s sees all of any area from its way', (how) => {
    fc.assert(
      fc.property(star, fc.double({ min: 2, max: 9, noNaN: true }), (ring, seesM) => {
        const path = sweepArea({ ring, seesM, how })
        for (let x = -40; x <= 40; x += 1.9)
          for (let y = -40; y <= 40; y += 1.9) {
            if (ringHolds(ring, x, y)) expect(distanceToLine(path, x, y)).toBeLessThanOrEqual(seesM)
          }
      }),
      { numRuns: 25 },
    )
  })

  it('runs along the longest side, and is about as long as the area over what is seen at once', () => {
    const path = sweepArea({
      ring: [
        [0, 0],
        [60, 0],
        [60, 20],
        [0, 20],
      ],
      seesM: 5,
      how: 'lanes',
    })
    expect(path).toEqual([
      [2.03125, 10 / 3],
      [57.96875, 10 / 3],
      [57.96875, 10],
      [2.03125, 10],
      [2.03125, 50 / 3],
      [57.96875, 50 / 3],
    ])
  })

  it('refuses what would take thousands of places', () => {
    expect(() =>
      sweepArea({
        ring: [
          [0, 0],
          [5000, 0],
          [5000, 5000],
        ],
        seesM: 2,
        how: 'lanes',
      }),
    ).toThrow('more than 5000')
  })
})

describe('a line along an outline', () => {
  it('keeps its distance, and fails only where there is no room', () => {
    const out = alongRing(L, 3)!
    for (const [x, y] of out) expect(Math.min(distanceToRing(L, x, y), 3)).toBeCloseTo(3, 3)
    expect(out).toHaveLength(6)
    expect(alongRing(L, -3)!.every(([x, y]) => ringHolds(L, x, y))).toBe(true)
    expect(alongRing(L, -10.1)).toBeUndefined()
  })
})

describe('as few places as matter', () => {
  it('keep a stroke within the tolerance', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.double({ min: -50, max: 50, noNaN: true }), fc.double({ min: -50, max: 50, noNaN: true })),
          { minLength: 2, maxLength: 60 },
        ),
        fc.double({ min: 0.1, max: 10, noNaN: true }),
        fc.boolean(),
        (stroke, toleranceM, closed) => {
          const kept = fewest(stroke, toleranceM, closed)
          const line = closed ? [...kept, kept[0]] : kept
          for (const [x, y] of stroke) expect(distanceToLine(line, x, y)).toBeLessThanOrEqual(toleranceM + 1e-9)
        },
      ),
    )
  })

  it('keep the ends of passages on a way that was found', () => {
    const line: Point3[] = [
      [0, 0, 0],
      [5, 0.1, 0],
      [10, 0, 0],
      [10.2, 0, 4],
      [15, 0, 4],
      [20, 0.1, 4],
    ]
    expect(alongWay(line, [{ at: 2 }], 0.5)).toEqual([line[0], line[2], line[3], line[5]])
    expect(alongWay(line, [], 0.5)).toEqual([line[0], line[5]])
  })
})
