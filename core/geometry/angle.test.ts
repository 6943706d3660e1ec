import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bearingOf, degrees, fromBearing, wrapAngle } from './angle'

describe('a bearing', () => {
  it('is 0 north, 90 east, 180 south and 270 west', () => {
    const to = (x: number, y: number) => bearingOf(Math.atan2(y, x))
    expect([to(0, 1), to(1, 0), to(0, -1), to(-1, 0)].map((d) => +d.toFixed(9))).toEqual([0, 90, 180, 270])
  })

  it('and the direction it stands for are the same way round and back', () => {
    fc.assert(
      fc.property(fc.double({ min: -50, max: 50, noNaN: true }), (rad) => {
        const bearing = bearingOf(rad)
        expect(bearing).toBeGreaterThanOrEqual(0)
        expect(bearing).toBeLessThan(360)
        expect(Math.abs(wrapAngle(fromBearing(bearing) - rad))).toBeLessThan(1e-9)
        // The way it points, told by trigonometry of another kind: east is its sine, north its cosine.
        expect(Math.sin((bearing * Math.PI) / 180)).toBeCloseTo(Math.cos(rad), 9)
        expect(Math.cos((bearing * Math.PI) / 180)).toBeCloseTo(Math.sin(rad), 9)
      }),
    )
  })

  it('beyond a whole turn is the one within', () => {
    expect(degrees(fromBearing(450))).toBeCloseTo(0, 9)
    expect(degrees(fromBearing(-90))).toBeCloseTo(180, 9)
  })
})
