import type { Level } from '@tidytrail/core/level'
import { label, X, Y, type Pen } from '../../map/pen'
import { drawPeg } from '../../map/peg'

/** Posts as pegs: a dot with a short bar at its back, and the arc that is watched from it. */
export function drawPosts(pen: Pen, level: Level, chosen: ReadonlySet<string>): void {
  const { inks, view } = pen
  for (const [id, post] of Object.entries(level.posts)) {
    if (post.hidden) continue
    const [x, y] = [X(pen, post.at[0]), Y(pen, post.at[1])]
    if (x < -40 || y < -40 || x > view.width + 40 || y > view.height + 40) continue
    const on = chosen.has(id)
    drawPeg(pen, post, on ? inks.colour.rust : inks.colour.ink, post.zoneId === null)
    if ((on || view.scale > 9) && post.name) label(pen, post.name, x, y + 17, { size: 11 })
  }
}
