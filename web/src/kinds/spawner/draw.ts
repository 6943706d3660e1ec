import type { Level } from '@tidytrail/core/level'
import { traceDrop } from '../../map/drop'
import { plainText, X, Y, type Pen } from '../../map/pen'

/** When more of them are on the sheet at once, each is a mere dot. */
const MANY = 500

/** Spawners: a doorway with the drop that will come out of it, and how many. */
export function drawSpawners(pen: Pen, level: Level, chosen: ReadonlySet<string>, hovered: string | undefined): void {
  const { c, inks, view } = pen
  const shown = Object.entries(level.spawners).flatMap(([id, s]) => {
    const x = X(pen, s.at[0])
    const y = Y(pen, s.at[1])
    const beyond = x < -40 || y < -40 || x > view.width + 40 || y > view.height + 40
    return s.hidden || beyond ? [] : [{ id, s, x, y }]
  })
  for (const { id, s, x, y } of shown) {
    const on = chosen.has(id)
    if (shown.length > MANY && !on && hovered !== id) {
      c.fillStyle = inks.colour.pine
      c.fillRect(Math.round(x) - 2, Math.round(y) - 2, 5, 5)
      continue
    }
    c.save()
    c.translate(x, y)
    c.rotate(-s.facingRad)
    c.strokeStyle = inks.colour.ink
    c.lineWidth = on || hovered === id ? 2.4 : 1.6
    // Three sides of a doorway, open where its agents come out.
    c.beginPath()
    c.moveTo(9, -10)
    c.lineTo(-10, -10)
    c.lineTo(-10, 10)
    c.lineTo(9, 10)
    c.fillStyle = inks.colour.sheet
    c.globalAlpha = 0.85
    c.fillRect(-10, -10, 19, 20)
    c.globalAlpha = 1
    c.stroke()
    traceDrop(c, 5)
    c.fillStyle = on ? inks.colour.rust : inks.colour.pine
    c.fill()
    c.restore()
    if (s.count > 1) plainText(pen, `×${s.count}`, x, y + 18, inks.colour.ink, true, 11)
  }
}
