import { blankLevel, readLevel } from '@tidytrail/core/level'
import fc from 'fast-check'
import { expect, it } from 'vitest'
import { drawSolidLabels } from '../kinds/solid/draw'
import { recordingPen } from './recording-pen'
import { toScreenX, toScreenY } from './viewport'

const shed = { shape: 'box', name: 'Shed', at: [50, 40], sizeX: 40, sizeY: 30, baseM: 0, heightM: 3 }
const levelWith = (places: readonly (readonly [number, number])[]) =>
  readLevel({
    ...blankLevel('Yard'),
    solids: { sd_a: shed },
    waypoints: Object.fromEntries(places.map(([x, y], k) => [`wp_${k}`, { at: [x, y, 0] }])),
  })
const view = { x: 50, y: 40, scale: 6, width: 800, height: 600 }
/** Where the name is written, window pixels. */
const written = (level: ReturnType<typeof levelWith>, at = view) => {
  const { pen, all } = recordingPen(at)
  drawSolidLabels(pen, level)
  return all.filter((m) => m.call === 'fillText').map((m) => m.args as [string, number, number])
}

it('a name is in the middle of what it names while nothing stands there, and beside it otherwise', () => {
  expect(written(levelWith([[10, 10]]))).toEqual([['Shed · 3 m', 400, 300.5]])
  const [[text, x, y]] = written(levelWith([[50, 40]]))
  expect(text).toBe('Shed · 3 m')
  expect(Math.hypot(x - 400, y - 300)).toBeGreaterThan(15)
})

it('a name never lies on a symbol, and stays within what it names', () => {
  const place = fc.tuple(fc.double({ min: 28, max: 72, noNaN: true }), fc.double({ min: 23, max: 57, noNaN: true }))
  fc.assert(
    fc.property(fc.array(place, { maxLength: 60 }), fc.double({ min: 3, max: 20, noNaN: true }), (places, scale) => {
      const at = { ...view, scale }
      for (const [text, x, y] of written(levelWith(places), at)) {
        const half = (text.length * 6 + 8) / 2
        for (const [px, py] of places) {
          const beside = Math.abs(toScreenX(at, px) - x) > half + 10 || Math.abs(toScreenY(at, py) - y) > 8 + 10
          expect(beside).toBe(true)
        }
        expect(x - half).toBeGreaterThanOrEqual(toScreenX(at, 30) - 1)
        expect(x + half).toBeLessThanOrEqual(toScreenX(at, 70) + 1)
      }
    }),
  )
})
