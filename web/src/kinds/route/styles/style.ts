import type { Route } from '@tidytrail/core/level'
import type { InkName } from '../../../map/inks'
import type { Pen } from '../../../map/pen'

type Line = readonly (readonly number[])[]

/** What a leg is drawn with: where it lies on the screen, in which ink, and how strongly. */
export interface LegDrawing {
  readonly pen: Pen
  readonly route: Route
  readonly line: Line
  readonly colour: string
  readonly width: number
  readonly alpha: number
  readonly chosen: boolean
}

/** How routes of a kind are drawn. */
export interface RouteStyle {
  readonly ink: InkName
  readonly pattern: string
  /** Drawn before the legs, along the whole course. */
  band?(pen: Pen, route: Route, course: readonly Line[], chosen: boolean, colour: string): void
  leg(leg: LegDrawing): void
  /** The outline of a stop, where it is not a circle. */
  stop?(c: CanvasRenderingContext2D, x: number, y: number, r: number): void
}

export function stroke(
  c: CanvasRenderingContext2D,
  line: readonly (readonly number[])[],
  colour: string,
  width: number,
  alpha: number,
) {
  c.globalAlpha = alpha
  c.strokeStyle = colour
  c.lineWidth = width
  c.beginPath()
  line.forEach(([x, y], i) => (i === 0 ? c.moveTo(x, y) : c.lineTo(x, y)))
  c.stroke()
}

/** Calls for places along a line on the screen, evenly: one on short lines, more on long ones. */
export function along(
  line: readonly (readonly number[])[],
  everyPx: number,
  draw: (x: number, y: number, ux: number, uy: number) => void,
): void {
  let total = 0
  for (let i = 1; i < line.length; i++) total += Math.hypot(line[i][0] - line[i - 1][0], line[i][1] - line[i - 1][1])
  if (total < 46) return
  const count = Math.max(1, Math.floor(total / everyPx))
  for (let k = 0; k < count; k++) {
    let left = (total * (k + 0.5)) / count
    for (let i = 1; i < line.length; i++) {
      const dx = line[i][0] - line[i - 1][0]
      const dy = line[i][1] - line[i - 1][1]
      const step = Math.hypot(dx, dy)
      if (left > step || step === 0) {
        left -= step
        continue
      }
      const ux = dx / step
      const uy = dy / step
      draw(line[i - 1][0] + ux * left, line[i - 1][1] + uy * left, ux, uy)
      break
    }
  }
}

/** Barbs point the way of travel; both ways for there and back. */
export function drawBarbs(
  c: CanvasRenderingContext2D,
  line: readonly (readonly number[])[],
  colour: string,
  width: number,
  bothWays: boolean,
): void {
  c.strokeStyle = colour
  c.lineWidth = width
  along(line, 110, (ax, ay, ux, uy) => {
    for (const way of bothWays ? [1, -1] : [1]) {
      const x = ax + ux * (bothWays ? 11 * way : 3)
      const y = ay + uy * (bothWays ? 11 * way : 3)
      c.beginPath()
      c.moveTo(x - (ux * 8 - uy * 4.5) * way, y - (uy * 8 + ux * 4.5) * way)
      c.lineTo(x, y)
      c.lineTo(x - (ux * 8 + uy * 4.5) * way, y - (uy * 8 - ux * 4.5) * way)
      c.stroke()
    }
  })
}
