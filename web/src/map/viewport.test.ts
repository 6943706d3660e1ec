import { expect, it } from 'vitest'
import { fit, roundLength, seenBox, toLevelX, toLevelY, toScreenX, toScreenY, zoomAt, type Viewport } from './viewport'

const view = (): Viewport => ({ x: 10, y: 20, scale: 5, width: 1000, height: 600 })

it('leads from the level to the window and back, north up', () => {
  const v = view()
  expect([toScreenX(v, 10), toScreenY(v, 20)]).toEqual([500, 300])
  expect(toScreenY(v, 21)).toBeLessThan(300)
  expect([toLevelX(v, toScreenX(v, 33.5)), toLevelY(v, toScreenY(v, -7))]).toEqual([33.5, -7])
})

it('keeps the place under the pointer when zooming', () => {
  const v = view()
  const before = [toLevelX(v, 120), toLevelY(v, 444)]
  zoomAt(v, 120, 444, 1.7)
  expect(toLevelX(v, 120)).toBeCloseTo(before[0], 9)
  expect(toLevelY(v, 444)).toBeCloseTo(before[1], 9)
})

it('fits a box between the panels', () => {
  const v = view()
  fit(v, { minX: 0, minY: 0, maxX: 220, maxY: 160 }, { left: 250, top: 60, right: 290, bottom: 150 })
  expect(toScreenX(v, 0)).toBeGreaterThanOrEqual(250 - 1e-6)
  expect(toScreenX(v, 220)).toBeLessThanOrEqual(710 + 1e-6)
  expect(toScreenY(v, 160)).toBeGreaterThanOrEqual(60 - 1e-6)
  expect(toScreenY(v, 0)).toBeLessThanOrEqual(450 + 1e-6)
  expect(seenBox(v).minX).toBeLessThan(0)
})

it('finds round lengths', () => {
  expect([0.03, 0.7, 1, 1.2, 3, 12, 80].map(roundLength)).toEqual([0.05, 1, 1, 2, 5, 20, 100])
})
