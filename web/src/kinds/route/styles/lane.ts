import { besideLine } from '@tidytrail/core/geometry'
import { along, stroke, type RouteStyle } from './style'

function drawChevrons(
  c: CanvasRenderingContext2D,
  line: readonly (readonly number[])[],
  colour: string,
  size: number,
  alpha: number,
): void {
  c.globalAlpha = alpha
  c.strokeStyle = colour
  c.lineWidth = 1.6
  along(line, 34, (x, y, ux, uy) => {
    c.beginPath()
    c.moveTo(x - ux * size - uy * size, y - uy * size + ux * size)
    c.lineTo(x, y)
    c.lineTo(x - ux * size + uy * size, y - uy * size - ux * size)
    c.stroke()
  })
}

/** Two sides as far apart as the lane is wide, with chevrons between them. */
export const lane: RouteStyle = {
  ink: 'lake',
  pattern: 'unbroken',
  leg({ pen: { c, view }, route, line, colour, alpha, chosen }) {
    const half = Math.max(2.2, (route.widthM * view.scale) / 2)
    for (const side of [half, -half]) stroke(c, besideLine(line, side), colour, chosen ? 2 : 1.3, alpha)
    drawChevrons(c, line, colour, Math.min(6, half + 1.5), alpha)
  },
}
