import { boxesMeet } from '@tidytrail/core/geometry'
import { terrainOf } from '@tidytrail/core/ground'
import type { Level } from '@tidytrail/core/level'
import { lying } from '../../map/lying'
import { labelArea } from '../../map/label-room'
import type { Pen } from '../../map/pen'
import { seenBox } from '../../map/viewport'
import type { MeshPlan } from '../../stores/assets'

const inked = new WeakMap<MeshPlan, { colour: string; canvas: OffscreenCanvas }>()

/** A mesh's plan in the ink of the day or the night. */
function canvasOf(plan: MeshPlan, colour: string): OffscreenCanvas {
  const known = inked.get(plan)
  if (known?.colour === colour) return known.canvas
  const canvas = new OffscreenCanvas(plan.width, plan.height)
  const c = canvas.getContext('2d')!
  const image = c.createImageData(plan.width, plan.height)
  for (let k = 0; k < plan.ink.length; k++) image.data[k * 4 + 3] = plan.ink[k]
  c.putImageData(image, 0, 0)
  c.globalCompositeOperation = 'source-in'
  c.fillStyle = colour
  c.fillRect(0, 0, plan.width, plan.height)
  inked.set(plan, { colour, canvas })
  return canvas
}

/** Meshes as seen from above: steep parts shaded, edges inked. */
export function drawMeshes(pen: Pen, level: Level, plans: ReadonlyMap<string, MeshPlan>): void {
  for (const mesh of Object.values(level.meshes)) {
    const plan = plans.get(mesh.assetId)
    if (mesh.hidden || !plan) continue
    lying(pen, mesh.at, mesh.turnRad, mesh.scale, () => {
      const wide = plan.maxX - plan.minX
      const deep = plan.maxY - plan.minY
      pen.c.drawImage(canvasOf(plan, pen.inks.colour.ink), plan.minX, -plan.maxY, wide, deep)
    })
  }
}

export function drawMeshLabels(pen: Pen, level: Level): void {
  const seen = seenBox(pen.view)
  for (const { id, name, box } of terrainOf(level).meshes) {
    if (level.meshes[id]?.hidden || !name || !boxesMeet(box, seen) || (box.maxX - box.minX) * pen.view.scale < 60)
      continue
    const middle = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2] as const
    labelArea(pen, level, name, middle, (x, y) => x > box.minX && x < box.maxX && y > box.minY && y < box.maxY)
  }
}
