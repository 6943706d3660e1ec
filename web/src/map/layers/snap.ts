import type { Snap } from '../../tools/snapping'
import { X, Y, type Pen } from '../pen'

/** Shows what the pointer has been drawn to: a corner as a square, an edge as a ring. */
export function drawSnap(pen: Pen, { at, to }: Snap): void {
  const x = X(pen, at[0])
  const y = Y(pen, at[1])
  pen.c.strokeStyle = pen.inks.colour.plum
  pen.c.lineWidth = 2
  pen.c.beginPath()
  if (to === 'corner') pen.c.rect(x - 6, y - 6, 12, 12)
  else pen.c.arc(x, y, 5, 0, 7)
  pen.c.stroke()
}
