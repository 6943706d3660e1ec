import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { distance2, turningLine, type Point3 } from '.'

/** By how much a line turns at each of its places, radians. */
const turns = (line: readonly Point3[]) =>
  line.slice(2).map((c, k) => {
    const [a, b] = [line[k], line[k + 1]]
    const turn = Math.atan2(c[1] - b[1], c[0] - b[0]) - Math.atan2(b[1] - a[1], b[0] - a[0])
    return Math.atan2(Math.sin(turn), Math.cos(turn))
  })

describe('a turning line', () => {
  it('is an arc of a circle where both ends lie evenly about the corner', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.2, max: 2, noNaN: true }),
        fc.double({ min: 3, max: 60, noNaN: true }),
        (rad, r) => {
          // About the origin, from east onwards.
          const line = turningLine(
            { at: [r, 0, 0], rad: Math.PI / 2 },
            { at: [r * Math.cos(rad), r * Math.sin(rad), 4], rad: rad + Math.PI / 2 },
          )
          for (const [x, y] of line) expect(Math.abs(Math.hypot(x, y) - r)).toBeLessThan(0.003 * r)
          // In a quarter turn and less, as near as published.
          if (rad <= Math.PI / 2)
            for (const [x, y] of line) expect(Math.abs(Math.hypot(x, y) - r)).toBeLessThan(3e-4 * r)
        },
      ),
    )
  })

  it('leaves and comes in as told, without a kink, and rises evenly', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -2.5, max: 2.5, noNaN: true }),
        fc.double({ min: 8, max: 40, noNaN: true }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        (rad, far, aside) => {
          const to = { at: [far * Math.cos(aside), far * Math.sin(aside), 3] as Point3, rad }
          // Where it would have to pass the place and turn back to it by more than a right angle, one cubic has a cusp.
          fc.pre(Math.abs(rad) < 1.4 || Math.sin(rad) * to.at[1] > -1e-6)
          const line = turningLine({ at: [0, 0, 1], rad: 0 }, to, 0.1)
          const [first, last] = [line[1], line[line.length - 2]]
          expect(Math.abs(Math.atan2(first[1], first[0]))).toBeLessThan(0.12)
          const end = Math.atan2(to.at[1] - last[1], to.at[0] - last[0]) - rad
          expect(Math.abs(Math.atan2(Math.sin(end), Math.cos(end)))).toBeLessThan(0.12)
          for (const turn of turns(line)) expect(Math.abs(turn)).toBeLessThan(0.3)
          for (let k = 1; k < line.length; k++) {
            expect(line[k][2]).toBeGreaterThan(line[k - 1][2] - 1e-12)
            expect(distance2(line[k], line[k - 1])).toBeLessThan(0.4)
          }
        },
      ),
      // The corner is a micrometre before the end.
      {
        examples: [
          [-0.12000240280450244, 8, -1.496432410170426e-8],
          [2.4298858829058663, 8, 8.16410176849402e-8],
        ],
      },
    )
  })

  it('shifts smoothly to a line beside it, the same both ways', () => {
    const line = turningLine({ at: [0, 0, 0], rad: 0 }, { at: [20, 3, 0], rad: 0 })
    line.forEach(([x, y], k) => {
      const [mx, my] = line[line.length - 1 - k]
      expect(x + mx).toBeCloseTo(20, 6)
      expect(y + my).toBeCloseTo(3, 6)
      expect(y).toBeGreaterThanOrEqual(0)
    })
  })

  it('is the two places where they are one', () => {
    expect(turningLine({ at: [1, 2, 3], rad: 0 }, { at: [1, 2, 4], rad: 1 })).toEqual([
      [1, 2, 3],
      [1, 2, 4],
    ])
  })
})
