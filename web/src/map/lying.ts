import { X, Y, type Pen } from './pen'

/** Draws with the canvas turned and scaled so that one unit is one metre of something lying at a place. */
export function lying(pen: Pen, at: readonly number[], turnRad: number, scale: number, draw: () => void): void {
  const { c, view } = pen
  c.save()
  c.translate(X(pen, at[0]), Y(pen, at[1]))
  c.rotate(-turnRad)
  c.scale(view.scale * scale, view.scale * scale)
  draw()
  c.restore()
}
