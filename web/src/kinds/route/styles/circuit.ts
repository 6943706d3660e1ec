import type { Route } from '@tidytrail/core/level'
import { traceLine, X, Y, type Pen } from '../../../map/pen'
import { plainLeg } from './plain'
import type { RouteStyle } from './style'

/** Cross ticks of a circuit, metres apart. */
const TICK_M = 50

/** A circuit's corridor: a band as wide as it is, with fine cross ticks. */
function drawBand(
  pen: Pen,
  route: Route,
  course: readonly (readonly (readonly number[])[])[],
  chosen: boolean,
  colour: string,
): void {
  const { c } = pen
  c.globalAlpha = chosen ? 0.26 : 0.16
  c.strokeStyle = colour
  c.lineWidth = Math.max(3, route.widthM * pen.view.scale)
  c.lineCap = 'butt'
  c.beginPath()
  const whole = course.flatMap((line, i) => (i === 0 ? line : line.slice(1)))
  traceLine(pen, whole, route.travel === 'round')
  c.stroke()
  c.globalAlpha = 0.8
  c.lineWidth = 1
  const half = Math.max(3, route.widthM * pen.view.scale) / 2
  let next = TICK_M
  let done = 0
  c.beginPath()
  for (let i = 1; i < whole.length; i++) {
    const [ax, ay] = whole[i - 1]
    const [bx, by] = whole[i]
    const length = Math.hypot(bx - ax, by - ay)
    while (length > 0 && done + length >= next) {
      const t = (next - done) / length
      const x = X(pen, ax + (bx - ax) * t)
      const y = Y(pen, ay + (by - ay) * t)
      const nx = ((by - ay) / length) * half
      const ny = ((bx - ax) / length) * half
      c.moveTo(x - nx, y - ny)
      c.lineTo(x + nx, y + ny)
      next += TICK_M
    }
    done += length
  }
  c.stroke()
  c.globalAlpha = 1
  c.lineCap = 'round'
}

export const circuit: RouteStyle = {
  ink: 'plum',
  pattern: 'unbroken',
  band(pen, route, course, chosen, colour) {
    if (route.widthM > 0) drawBand(pen, route, course, chosen, colour)
  },
  leg: (leg) => plainLeg(leg, 'unbroken'),
}
