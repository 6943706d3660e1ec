import { addDrop } from '../drop'
import type { Inks } from '../inks'

/** Who goes on, who cannot, and a player's stand-in. */
export type DropLook = 'rust' | 'alarm' | 'hollow'

/** Draws an agent at a place; a stand-in is hollow, with a double line. @param turn radians, clockwise on the window */
export function dropOf(
  inks: Inks,
  c: CanvasRenderingContext2D,
  look: DropLook,
  x: number,
  y: number,
  turn: number,
  r: number,
): void {
  c.beginPath()
  addDrop(c, x, y, turn, r)
  if (look === 'hollow') {
    c.strokeStyle = inks.colour.rust
    c.lineWidth = 4.6
    c.stroke()
  }
  c.strokeStyle = inks.colour.sheet
  c.lineWidth = 1.6
  c.stroke()
  c.fillStyle = look === 'hollow' ? inks.colour.sheet : inks.colour[look]
  c.fill()
}
