import type { Level } from '@tidytrail/core/level'
import { label, X, Y, type Pen } from '../../map/pen'

/** Markers as a cross in a ring. */
export function drawMarkers(pen: Pen, level: Level, chosen: ReadonlySet<string>): void {
  const { c, inks } = pen
  for (const [id, marker] of Object.entries(level.markers)) {
    if (marker.hidden) continue
    const [x, y] = [X(pen, marker.at[0]), Y(pen, marker.at[1])]
    c.strokeStyle = chosen.has(id) ? inks.colour.rust : inks.colour.ink
    c.lineWidth = 1.6
    c.beginPath()
    c.arc(x, y, 6, 0, 7)
    c.moveTo(x - 3, y)
    c.lineTo(x + 3, y)
    c.moveTo(x, y - 3)
    c.lineTo(x, y + 3)
    c.stroke()
    if (pen.view.scale > 6 && marker.name) label(pen, marker.name, x, y + 16, { size: 11 })
  }
}
