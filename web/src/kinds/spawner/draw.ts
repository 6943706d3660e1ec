import { factionIdOf, type Level, type Spawner } from '@tidytrail/core/level'
import { directionAt, laneNet, placeAt } from '@tidytrail/core/traffic'
import { dropOf, lookOf } from '../../map/layers/drop-of'
import { plainText, X, Y, type Pen } from '../../map/pen'

/** When more of them are on the sheet at once, each is a mere dot. */
const MANY = 500

/** Spawners: a doorway with the drop that will come out of it, and how many. */
export function drawSpawners(pen: Pen, level: Level, chosen: ReadonlySet<string>, hovered: string | undefined): void {
  const { c, inks, view } = pen
  for (const [id, s] of Object.entries(level.spawners)) {
    if (s.hidden) continue
    const on = chosen.has(id)
    if (s.where === 'spots') for (const [k, p] of s.spots.entries()) drawSpot(pen, p, k + 2, on)
    if (s.where === 'lanes') drawStream(pen, level, s, on || hovered === id)
  }
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
    if (s.where !== 'lanes' && s.count > 1) plainText(pen, `×${s.count}`, x, y + 18, inks.colour.ink, true, 11)
  }
}

/** Where a stream comes onto its lanes: three chevrons along the beginning of each. */
function drawStream(pen: Pen, level: Level, { laneIds }: Spawner, on: boolean): void {
  const { c, inks } = pen
  const { lanes } = laneNet(level)
  c.strokeStyle = on ? inks.colour.rust : inks.colour.pine
  c.lineWidth = on ? 2.6 : 2
  for (const laneId of laneIds) {
    const lane = lanes.get(laneId)
    if (!lane) continue
    for (let k = 0; k < 3; k++) {
      const m = (14 + 9 * k) / pen.view.scale
      if (m > lane.line.lengthM) break
      const [px, py] = placeAt(lane.line, m)
      const rad = directionAt(lane.line, m)
      c.save()
      c.translate(X(pen, px), Y(pen, py))
      c.rotate(-rad)
      c.beginPath()
      c.moveTo(-4, -5)
      c.lineTo(2, 0)
      c.lineTo(-4, 5)
      c.stroke()
      c.restore()
    }
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
