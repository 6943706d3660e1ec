import type { Level } from '@tidytrail/core/level'
import { label, X, Y, type Pen } from '../../map/pen'

/** The arc a post watches is drawn so far out, pixels. */
const ARC_PX = 19

/** Posts as pegs: a dot with a short bar at its back, and the arc that is watched from it. */
export function drawPosts(pen: Pen, level: Level, chosen: ReadonlySet<string>): void {
  const { c, inks, view } = pen
  for (const [id, post] of Object.entries(level.posts)) {
    if (post.hidden) continue
    const [x, y] = [X(pen, post.at[0]), Y(pen, post.at[1])]
    if (x < -40 || y < -40 || x > view.width + 40 || y > view.height + 40) continue
    const on = chosen.has(id)
    c.strokeStyle = c.fillStyle = on ? inks.colour.rust : inks.colour.ink
    c.save()
    c.translate(x, y)
    c.rotate(-post.facingRad)
    c.lineWidth = 2.4
    c.beginPath()
    c.moveTo(-6, -6)
    c.lineTo(-6, 6)
    c.stroke()
    c.lineWidth = 1.6
    c.beginPath()
    c.arc(0, 0, 4, 0, 7)
    // One that belongs to no zone is hollow.
    if (post.zoneId === null) c.stroke()
    else c.fill()
    if (post.arcRad > 0) {
      c.lineWidth = 1.1
      c.setLineDash([3, 2.5])
      c.beginPath()
      c.arc(0, 0, ARC_PX, -post.arcRad / 2, post.arcRad / 2)
      c.stroke()
      c.setLineDash([])
    }
    c.restore()
    if ((on || view.scale > 9) && post.name) label(pen, post.name, x, y + 17, { size: 11 })
  }
}
