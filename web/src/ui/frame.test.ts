import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { frameSize } from './frame-size'
import { menuPlace } from './menu-place'

describe('the frame', () => {
  it('folds as the window gets smaller, and at twice the size of everything', () => {
    expect(frameSize(1280, 800)).toBe('wide')
    expect(frameSize(1000, 650)).toBe('narrow')
    expect(frameSize(640, 400)).toBe('small')
    // Wide and very low: nothing could stand above a drawer.
    expect(frameSize(1280, 400)).toBe('small')
  })
})

describe('a menu', () => {
  const number = (text: string) => Number(text.replace('px', ''))
  const button = { left: 100, top: 700, bottom: 730 }

  it('opens upwards at the foot of the window and downwards at its head', () => {
    expect(menuPlace(button, 5, 1280, 800)).toMatchObject({ bottom: '106px', top: 'auto' })
    expect(menuPlace({ left: 100, top: 10, bottom: 40 }, 5, 1280, 800)).toMatchObject({ top: '46px', bottom: 'auto' })
  })

  it('is never outside the window, wherever its button is', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 320, max: 2000 }),
        fc.integer({ min: 300, max: 1200 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.integer({ min: 1, max: 60 }),
        (width, height, u, v, lines) => {
          const box = { left: u * (width - 60), top: v * (height - 30), bottom: v * (height - 30) + 30 }
          const place = menuPlace(box, lines, width, height)
          expect(number(place.left)).toBeGreaterThanOrEqual(0)
          expect(number(place.left) + 216).toBeLessThanOrEqual(width)
          const most = number(place.maxHeight)
          const start = place.top === 'auto' ? height - number(place.bottom) - most : number(place.top)
          expect(start).toBeGreaterThanOrEqual(0)
          expect(start + most).toBeLessThanOrEqual(height)
          // There is room for all of it, or it is on the side that has the more.
          expect(most).toBeGreaterThanOrEqual(Math.min(lines * 26 + 12, Math.floor(height / 2 - 40)))
        },
      ),
    )
  })
})
