import { boxesMeet, boxOf, ringHolds } from '@tidytrail/core/geometry'
import { byRank, type Cover, type Level } from '@tidytrail/core/level'
import { seenBox } from '../../map/viewport'
import { labelArea } from '../../map/label-room'
import { inMetres, pinPattern, type Pen } from '../../map/pen'

/** How each kind of cover is inked: texture and colour of its rim; kinds of the user's own share one. */
export const COVER_LOOK = {
  road: { texture: 'road', rim: 'ink' },
  pavement: { texture: 'pavement', rim: 'faded' },
  grass: { texture: 'grass', rim: 'pine' },
  mud: { texture: 'mud', rim: 'ochre' },
  water: { texture: 'waves', rim: 'lake' },
  'off-limits': { texture: 'barred', rim: 'alarm' },
} as const
export const coverLook = (kind: string) =>
  COVER_LOOK[kind as keyof typeof COVER_LOOK] ?? ({ texture: 'own', rim: 'plum' } as const)

const pathOf = (ring: readonly (readonly number[])[]) => {
  const path = new Path2D()
  ring.forEach(([x, y], i) => (i === 0 ? path.moveTo(x, y) : path.lineTo(x, y)))
  path.closePath()
  return path
}
const paths = new WeakMap<object, Path2D>()
const kept = (ring: Cover['ring']) => {
  let path = paths.get(ring)
  if (!path) paths.set(ring, (path = pathOf(ring)))
  return path
}

/** Painted surfaces, each kind a texture of its own. */
export function drawCovers(pen: Pen, level: Level): void {
  const seen = seenBox(pen.view)
  for (const [, cover] of byRank(level.covers)) {
    if (cover.hidden || !boxesMeet(boxOf(cover.ring), seen)) continue
    const { texture, rim } = coverLook(cover.kind)
    inMetres(pen, (m) => {
      const { c, inks } = pen
      const path = kept(cover.ring)
      // Contours and water show through a little.
      c.globalAlpha = 0.55
      c.fillStyle = inks.colour.paper
      c.fill(path)
      c.globalAlpha = 1
      c.fillStyle = pinPattern(pen, inks.textures[texture])
      c.fill(path)
      c.strokeStyle = inks.colour[rim]
      c.lineWidth = 1.2 * m
      c.setLineDash(cover.kind === 'off-limits' ? [8 * m, 4 * m] : [])
      c.stroke(path)
      c.setLineDash([])
    })
  }
}

export function drawCoverLabels(pen: Pen, level: Level): void {
  for (const cover of Object.values(level.covers)) {
    if (cover.hidden || !cover.name) continue
    const box = boxOf(cover.ring)
    if ((box.maxX - box.minX) * pen.view.scale < 90 || (box.maxY - box.minY) * pen.view.scale < 24) continue
    const middle = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2] as const
    labelArea(pen, level, cover.name, middle, (x, y) => ringHolds(cover.ring, x, y), { size: 11 })
  }
}
