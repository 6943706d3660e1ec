import type { Box2 } from '@tidytrail/core/geometry'
import { metres } from '../../ui/figures'
import { label, X, Y, type Pen } from '../pen'

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
