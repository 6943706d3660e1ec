import { plainLeg } from './plain'
import type { RouteStyle } from './style'

/** A little flag whose foot is the place and whose cloth holds the number. */
function pennant(c: CanvasRenderingContext2D, x: number, y: number, r: number): void {
  c.moveTo(x - r, y - r)
  c.lineTo(x + r * 1.5, y)
  c.lineTo(x - r, y + r)
  c.closePath()
}

export const mission: RouteStyle = {
  ink: 'ochre',
  pattern: 'dots',
  leg: (leg) => plainLeg(leg, 'dots', 1.5),
  stop: pennant,
}
