import type { Level } from '@tidytrail/core/level'
import { label, X, Y, type Pen } from '../../map/pen'

/** Posts as a small square with a facing. */
export function drawPosts(pen: Pen, level: Level, chosen: ReadonlySet<string>): void {
  const { c, inks } = pen
  for (const [id, post] of Object.entries(level.posts)) {
    if (post.hidden) continue
    const [x, y] = [X(pen, post.at[0]), Y(pen, post.at[1])]
    c.strokeStyle = c.fillStyle = chosen.has(id) ? inks.colour.rust : inks.colour.ink
    c.lineWidth = 1.8
    c.beginPath()
    c.moveTo(x, y)
    c.lineTo(x + 14 * Math.cos(post.facingRad), y - 14 * Math.sin(post.facingRad))
    c.stroke()
    c.fillRect(x - 4, y - 4, 8, 8)
    if (pen.view.scale > 6 && post.name) label(pen, post.name, x, y + 15, { size: 11 })
  }
}
