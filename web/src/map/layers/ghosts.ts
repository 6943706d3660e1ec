import type { Box2 } from '@tidytrail/core/geometry'
import { metres } from '../../ui/figures'
import { label, traceLine, X, Y, type Pen } from '../pen'

/** Moves that are only thought of: a ring where each thing is, with how far up or down it would go. */
export function drawGhosts(pen: Pen, ghosts: readonly { from: readonly number[]; to: readonly number[] }[]): void {
  const { c, inks } = pen
  for (const { from, to } of ghosts) {
    const x = X(pen, to[0])
    const y = Y(pen, to[1])
    c.strokeStyle = inks.colour.plum
    c.lineWidth = 2
    c.setLineDash([3, 3])
    c.beginPath()
    c.arc(x, y, 13, 0, 7)
    c.stroke()
    c.setLineDash([])
    if (ghosts.length > 60) continue
    const up = to[2] - from[2]
    label(pen, `${up > 0 ? '↑' : '↓'} ${metres(Math.abs(up))}`, x, y - 24, { size: 11 })
  }
}

/** Where the reach is being worked out again: a thin frame with corners, so that one sees it is not done. */
export function drawRebuilding(pen: Pen, boxes: readonly Box2[]): void {
  const { c, inks } = pen
  c.strokeStyle = inks.colour.ochre
  c.lineWidth = 1.5
  c.setLineDash([2, 5])
  for (const b of boxes) {
    c.strokeRect(X(pen, b.minX), Y(pen, b.maxY), (b.maxX - b.minX) * pen.view.scale, (b.maxY - b.minY) * pen.view.scale)
  }
  c.setLineDash([])
}

/** Routes that are only thought of: a line with a dot at each stop. */
export function drawSketch(
  pen: Pen,
  lines: readonly {
    readonly line: readonly (readonly number[])[]
    readonly closed?: boolean
    readonly loose?: boolean
    /** A line that is no route: without stops and a start. */
    readonly bare?: boolean
  }[],
): void {
  const { c, inks } = pen
  for (const { line, closed, loose, bare } of lines) {
    if (line.length === 0) continue
    c.strokeStyle = inks.colour.plum
    c.lineWidth = 2
    c.setLineDash([4, 4])
    c.beginPath()
    if (!loose) traceLine(pen, line, closed)
    c.stroke()
    c.setLineDash([])
    if (bare) continue
    c.fillStyle = inks.colour.sheet
    for (const p of line.length > 2000 ? [line[0], line[line.length - 1]] : line) {
      c.beginPath()
      c.arc(X(pen, p[0]), Y(pen, p[1]), 4, 0, 7)
      c.fill()
      c.stroke()
    }
    if (!loose) label(pen, 'start', X(pen, line[0][0]), Y(pen, line[0][1]) - 15, { size: 11 })
  }
}

/** A place pointed at elsewhere, such as in a side view: cross hairs. */
export function drawCrosshair(pen: Pen, at: readonly number[]): void {
  const { c, inks } = pen
  const x = X(pen, at[0])
  const y = Y(pen, at[1])
  c.strokeStyle = inks.colour.ink
  c.lineWidth = 1.5
  c.beginPath()
  for (const [dx, dy] of [
    [1, 0],
    [-1, 0],
    [0, 1],
    [0, -1],
  ]) {
    c.moveTo(x + dx * 6, y + dy * 6)
    c.lineTo(x + dx * 18, y + dy * 18)
  }
  c.stroke()
}

/** A drop that runs along a route to show how it is travelled. */
export function drawRunner(pen: Pen, at: readonly number[], headingRad: number, text: string): void {
  const { c, inks } = pen
  const x = X(pen, at[0])
  const y = Y(pen, at[1])
  c.save()
  c.translate(x, y)
  c.rotate(-headingRad)
  c.beginPath()
  c.moveTo(13, 0)
  c.quadraticCurveTo(2, 9, -6, 6.5)
  c.arc(-5, 0, 6.6, Math.PI / 2, -Math.PI / 2)
  c.quadraticCurveTo(2, -9, 13, 0)
  c.closePath()
  c.fillStyle = inks.colour.sheet
  c.fill()
  c.strokeStyle = inks.colour.ink
  c.lineWidth = 2
  c.stroke()
  c.restore()
  label(pen, text, x, y + 22, { size: 11 })
}
