import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Point3 } from '@tidytrail/core/geometry'
import { framesOf, preset, rehearsed, stopsMade, travelLevel } from '@tidytrail/core/testing'
import { makeCourse, pieceTime, speedBefore, type CourseLeg, type Powers } from './course'

const powers: Powers = { accelMps2: 2, brakeMps2: 4, sideMps2: 5, turnRadps: 9, turnM: 0, slowestMps: 0, lagS: 0 }
const leg = (line: Point3[], gaitMps = 10, stop = 0): CourseLeg => ({ line, uses: [], gaitMps, stop, extraS: 0 })

describe('the speeds of a course', () => {
  it('bring a traveller to a halt by braking as hard as it can: v² = 2 b s', () => {
    const course = makeCourse(
      [
        leg([
          [0, 0, 0],
          [100, 0, 0],
        ]),
      ],
      powers,
      true,
    )
    for (const left of [0, 1, 2, 8, 12.5, 40])
      expect(Math.min(10, speedBefore(course.limit[1], left, 4))).toBeCloseTo(Math.min(10, Math.sqrt(2 * 4 * left)), 9)
  })

  it('round a circle drawn in short pieces are those of its radius: v² = a r', () => {
    const r = 20
    const line = Array.from({ length: 241 }, (_, k): Point3 => [
      r * Math.cos((k * Math.PI) / 120),
      r * Math.sin((k * Math.PI) / 120),
      0,
    ])
    const { limit } = makeCourse([leg(line, 50)], powers, false)
    for (const v of limit.slice(5, -40)) expect(v).toBeCloseTo(Math.sqrt(5 * r), 1)
    // The lap then takes 2πr / √(a r).
    const [mark] = makeCourse([leg(line, 50)], { ...powers, accelMps2: 1e6 }, false).marks
    const lapS = (2 * Math.PI * r) / Math.sqrt(5 * r)
    expect(Math.abs(mark.expectedS / lapS - 1)).toBeLessThan(0.02)
  })

  it('never let braking fall short on the way from any point to the next, nor any gait be passed', () => {
    const place = fc.tuple(fc.integer({ min: 0, max: 200 }), fc.integer({ min: 0, max: 200 }))
    fc.assert(
      fc.property(
        fc.array(fc.tuple(place, fc.integer({ min: 1, max: 20 })), { minLength: 2, maxLength: 9 }),
        (list) => {
          const legs = list.slice(1).map(([[x, y], gait], k) =>
            leg(
              [
                [list[k][0][0], list[k][0][1], 0],
                [x, y, 0],
              ],
              gait,
              k,
            ),
          )
          const { count, s, limit, gait, marks } = makeCourse(legs, powers, true)
          expect(marks).toHaveLength(legs.length)
          for (let k = 1; k < count; k++) {
            expect(limit[k - 1] ** 2 - limit[k] ** 2).toBeLessThanOrEqual(2 * 4 * (s[k] - s[k - 1]) + 1e-6)
            expect(limit[k]).toBeLessThanOrEqual(gait[k])
          }
          expect(limit[count - 1]).toBe(0)
          for (const m of marks) expect(m.expectedS).toBeGreaterThanOrEqual(0)
        },
      ),
    )
  })
})

describe('the time for a piece of line', () => {
  it.each([
    // From rest to rest over 100 m at most 10 m/s: 5 s up, 2.5 s down, and 62.5 m between.
    [100, 0, 0, 10, 5 + 2.5 + 6.25],
    // Too short to reach the gait: up to √(2abL/(a+b)) and down again.
    [3, 0, 0, 10, Math.sqrt(8) / 2 + Math.sqrt(8) / 4],
    [20, 10, 10, 10, 2],
  ])('is that of accelerating, going and braking: %f m from %f to %f', (m, v0, v1, most, seconds) => {
    expect(pieceTime(m, v0, v1, most, powers)[0]).toBeCloseTo(seconds, 6)
  })
})

describe('a course that is kept on', () => {
  it('is slowed down on for every bend, however many stops before it were passed', () => {
    // Straight over stops forty metres apart, then a sharp bend at one of them: at whichever, it is known in time.
    for (const straight of [3, 4, 5]) {
      const end = 10 + 40 * (straight - 1)
      const stops: [number, number][] = Array.from({ length: straight }, (_, k) => [10 + 40 * k, 20])
      stops.push([end - 2, 45])
      const quick = { ...preset('Tide-cart'), gaits: { drive: 9 }, gait: 'drive' }
      const level = travelLevel(quick, stops, { route: { kind: 'lane', legs: 'drawn' }, sideM: 200 })
      const run = rehearsed(level, 16 + 5 * straight)
      const rows = framesOf(run).flat()
      const bend = rows.filter((r) => Math.hypot(r.x - end, r.y - 20) < 3)
      expect(Math.max(...rows.map((r) => r.speed))).toBeGreaterThan(8)
      expect(Math.min(...bend.map((r) => r.speed))).toBeLessThan(4.5)
      expect(Math.max(...rows.map((r) => r.off))).toBeLessThan(1)
      expect(stopsMade(run)).toEqual(stops.map((_, k) => k))
    }
  })
})
