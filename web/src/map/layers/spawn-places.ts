import type { Level } from '@tidytrail/core/level'
import type { CastFacts } from '../../workers/surveyor.protocol'
import { traceDrop } from '../drop'
import { X, Y, type Pen } from '../pen'

/** Where spawners may let agents appear: a faint scatter of hollow drops; the first draw of the seed is inked, and where nobody can stand is crossed. */
export function drawSpawnPlaces(
  pen: Pen,
  level: Level,
  spawners: CastFacts['spawners'],
  chosen: ReadonlySet<string>,
): void {
  const { c, inks, view } = pen
  for (const [id, { places, first }] of Object.entries(spawners)) {
    const spawner = level.spawners[id]
    if (!spawner || spawner.hidden || (spawner.where === 'spot' && places.every((p) => !p.fault))) continue
    const r = Math.max(3.5, (level.profiles[spawner.profileId ?? '']?.radiusM ?? 0.3) * view.scale)
    const one = (at: readonly number[], facingRad: number, draw: () => void) => {
      const [x, y] = [X(pen, at[0]), Y(pen, at[1])]
      if (x < -20 || y < -20 || x > view.width + 20 || y > view.height + 20) return
      c.save()
      c.translate(x, y)
      c.rotate(-facingRad)
      traceDrop(c, r)
      draw()
      c.restore()
    }
    c.lineWidth = 1.2
    for (const { at, facingRad, fault } of places)
      one(at, facingRad, () => {
        c.globalAlpha = fault ? 1 : chosen.has(id) ? 0.8 : 0.4
        c.strokeStyle = fault ? inks.colour.alarm : inks.colour.pine
        c.stroke()
        if (fault) {
          c.beginPath()
          c.moveTo(-r, -r)
          c.lineTo(r, r)
          c.moveTo(-r, r)
          c.lineTo(r, -r)
          c.stroke()
        }
        c.globalAlpha = 1
      })
    if (first)
      one(first.at, first.facingRad, () => {
        c.fillStyle = inks.colour.pine
        c.fill()
      })
    // A thin line from the doorway to what is not at it.
    if (chosen.has(id) && first) {
      c.strokeStyle = inks.colour.faded
      c.setLineDash([2, 4])
      c.beginPath()
      c.moveTo(X(pen, spawner.at[0]), Y(pen, spawner.at[1]))
      c.lineTo(X(pen, first.at[0]), Y(pen, first.at[1]))
      c.stroke()
      c.setLineDash([])
    }
  }
}
