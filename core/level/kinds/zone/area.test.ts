import { distance2 } from '@tidytrail/core/geometry'
import { castLevel } from '@tidytrail/core/testing'
import { describe, expect, it } from 'vitest'
import { areaOf, zoneSchema } from '../..'

const level = castLevel({})
const area = (zone: object) => areaOf(level, zoneSchema.parse({ name: 'Z', ...zone }))

describe('the ground of a zone', () => {
  it('is within the outline of a polygon, the rim of a circle, half its width from the line of a band', () => {
    const polygon = area({ ring: [[0, 0], [10, 0], [10, 10]] })! // prettier-ignore
    expect([polygon.holds(8, 2), polygon.holds(2, 8)]).toEqual([true, false])
    const circle = area({ shape: 'circle', ring: [[20, 20], [23, 24]] })! // prettier-ignore
    expect([circle.holds(20, 24.99), circle.holds(20, 25.01)]).toEqual([true, false])
    expect(circle.box).toEqual({ minX: 15, minY: 15, maxX: 25, maxY: 25 })
    expect(circle.edgeM(20, 20)).toBeCloseTo(5)
    // The route leads round, so its closing leg counts.
    const band = area({ shape: 'band', routeId: 'rt_a', widthM: 4 })!
    expect([band.holds(15, 8.1), band.holds(15, 7.9), band.holds(15, 15), band.holds(15, 13)]).toEqual([
      true,
      false,
      true,
      true,
    ])
    expect(area({ shape: 'band', routeId: null })).toBeUndefined()
  })

  it('agrees with what is measured place by place', () => {
    const circle = area({ shape: 'circle', ring: [[20, 20], [29, 20]] })! // prettier-ignore
    for (let x = 5; x < 35; x += 1.7)
      for (let y = 5; y < 35; y += 1.3) expect(circle.holds(x, y)).toBe(distance2([20, 20, 0], [x, y, 0]) <= 9)
  })

  it('is at the heights that are meant, where some are', () => {
    const upper = area({ ring: [[0, 0], [10, 0], [10, 10]], fromM: 2, toM: 5 })! // prettier-ignore
    expect([upper.holds(8, 2, 1), upper.holds(8, 2, 3), upper.holds(8, 2, 6), upper.holds(8, 2)]).toEqual([
      false,
      true,
      false,
      true,
    ])
  })

  it('cannot be made of the wrong number of places', () => {
    expect(() => zoneSchema.parse({ name: 'Z', ring: [[0, 0]] })).toThrow(/three corners/)
    expect(() => zoneSchema.parse({ name: 'Z', shape: 'circle', ring: [] })).toThrow(/place on its rim/)
    expect(() => zoneSchema.parse({ name: 'Z', shape: 'band', ring: [[0, 0]] })).toThrow(/lies along its route/)
  })
})
