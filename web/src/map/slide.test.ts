import { expect, it } from 'vitest'
import { MARGIN_PX, Slide } from './slide'

it('a canvas is slid along while the map is panned, and drawn anew once it is zoomed or moved too far', () => {
  const canvas = { style: { transform: '' } } as HTMLCanvasElement
  const view = { x: 10, y: 20, scale: 4, width: 800, height: 600 }
  const slide = new Slide()
  slide.settle(canvas, view)
  expect(slide.move(canvas, { ...view, x: 15 }, true)).toBe(false)
  expect(canvas.style.transform).toBe('translate(-20px, 0px)')
  expect(slide.move(canvas, { ...view, x: 15 }, false)).toBe(true)
  expect(slide.move(canvas, { ...view, scale: 5 }, true)).toBe(true)
  expect(slide.move(canvas, { ...view, y: 20 + (MARGIN_PX + 4) / 4 }, true)).toBe(true)
})
