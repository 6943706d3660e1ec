import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { roomiest, type Frame } from './room'

const overlaps = (a: Frame, b: Frame) => a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom
const sizeOf = (f: Frame, aspect: number) => Math.min(f.right - f.left, (f.bottom - f.top) * aspect)

describe('the room for the map', () => {
  it('is all of the window without panels', () => {
    expect(roomiest(800, 600, [], 1)).toEqual({ left: 0, top: 0, right: 800, bottom: 600 })
  })

  it('reaches under a panel that is short', () => {
    const long = roomiest(1000, 700, [{ left: 0, top: 0, right: 250, bottom: 700 }], 1.5)
    const short = roomiest(1000, 700, [{ left: 0, top: 0, right: 250, bottom: 120 }], 1.5)
    expect(long.left).toBe(250)
    expect(short).toEqual({ left: 0, top: 120, right: 1000, bottom: 700 })
  })

  it('lies in the middle rather than beside a panel for a little more', () => {
    // A strip of tools at the top left, and a card at each side.
    const panels = [
      { left: 0, top: 0, right: 250, bottom: 900 },
      { left: 250, top: 0, right: 800, bottom: 40 },
      { left: 1600, top: 0, right: 1900, bottom: 900 },
    ]
    expect(roomiest(1900, 900, panels, 1)).toEqual({ left: 250, top: 40, right: 1600, bottom: 900 })
    const high = panels.map((p, k) => (k === 1 ? { ...p, bottom: 400 } : p))
    expect(roomiest(1900, 900, high, 1)).toEqual({ left: 800, top: 0, right: 1600, bottom: 900 })
  })

  it('touches no panel, and no frame tried at random is free and much larger', () => {
    const panel = fc
      .tuple(fc.nat(900), fc.nat(600), fc.integer({ min: 10, max: 400 }), fc.integer({ min: 10, max: 300 }))
      .map(([left, top, w, h]): Frame => ({ left, top, right: left + w, bottom: top + h }))
    const tried = fc.tuple(fc.nat(990), fc.nat(690), fc.nat(990), fc.nat(690)).map(([x, y, u, v]): Frame => ({
      left: Math.min(x, u),
      top: Math.min(y, v),
      right: Math.max(x, u) + 1,
      bottom: Math.max(y, v) + 1,
    }))
    fc.assert(
      fc.property(
        fc.array(panel, { maxLength: 6 }),
        tried,
        fc.double({ min: 0.4, max: 3, noNaN: true }),
        (ps, t, a) => {
          const found = roomiest(1000, 700, ps, a)
          const nothing = ps.some((p) => overlaps(found, p))
          // Only where nothing is left at all it is the whole window.
          if (nothing) expect(found).toEqual({ left: 0, top: 0, right: 1000, bottom: 700 })
          if (!ps.some((p) => overlaps(t, p)))
            expect(nothing ? 0 : sizeOf(found, a)).toBeGreaterThanOrEqual(0.94 * sizeOf(t, a) - 1e-9)
        },
      ),
    )
  })
})
