import { factionIdOf, type Level } from '@tidytrail/core/level'
import { dropOf, lookOf } from '../../map/layers/drop-of'
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
    const faction = level.factions[factionIdOf(level, s) ?? '']
    dropOf(inks, c, { ...lookOf(faction ?? { ink: 'pine', pattern: 'plain' }), hollow: s.standIn }, 0, 0, 0, 5)
    c.restore()
    if (s.where === 'spots') for (const [k, p] of s.spots.entries()) drawSpot(pen, p, k + 2, on)
    if (s.count > 1) plainText(pen, `×${s.count}`, x, y + 18, inks.colour.ink, true, 11)
  }
}

/** Another spot of a spawner: a small doorstep with its number. */
function drawSpot(pen: Pen, at: readonly number[], number: number, on: boolean): void {
  const { c, inks } = pen
  const [x, y] = [X(pen, at[0]), Y(pen, at[1])]
  c.strokeStyle = on ? inks.colour.rust : inks.colour.ink
  c.fillStyle = inks.colour.sheet
  c.lineWidth = 1.4
  c.fillRect(x - 7, y - 7, 14, 14)
  c.strokeRect(x - 7, y - 7, 14, 14)
  plainText(pen, String(number), x, y, inks.colour.ink, true, 10)
}
