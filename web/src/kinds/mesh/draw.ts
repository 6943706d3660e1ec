import { terrainOf } from '@tidytrail/core/ground'
import type { Level, Underlay } from '@tidytrail/core/level'
import { seenBox } from '../../map/viewport'
import { label, traceLine, X, Y, type Pen } from '../../map/pen'
import { boxesMeet } from '@tidytrail/core/geometry'
import type { MeshPlan } from '../../stores/assets'

/** Draws with the canvas turned and scaled so that one unit is one metre of something lying at a place. */
function lying(pen: Pen, at: readonly number[], turnRad: number, scale: number, draw: () => void): void {
  const { c, view } = pen
  c.save()
  c.translate(X(pen, at[0]), Y(pen, at[1]))
  c.rotate(-turnRad)
  c.scale(view.scale * scale, view.scale * scale)
  draw()
  c.restore()
}

/** Pictures to trace, under everything. */
export function drawUnderlays(pen: Pen, level: Level, pictures: ReadonlyMap<string, ImageBitmap>): void {
  for (const u of Object.values(level.underlays)) {
    const picture = pictures.get(u.assetId)
    if (u.hidden || !picture) continue
    lying(pen, u.at, u.turnRad, u.metresPerPixel, () => {
      pen.c.globalAlpha = u.opacity
      pen.c.drawImage(picture, 0, -picture.height)
      pen.c.globalAlpha = 1
    })
  }
}

/** The corners of an underlay on the map; undefined until its picture has come. */
export function underlayRing(u: Underlay, picture: { width: number; height: number }): [number, number][] {
  const [c, s] = [Math.cos(u.turnRad) * u.metresPerPixel, Math.sin(u.turnRad) * u.metresPerPixel]
  return [
    [0, 0],
    [picture.width, 0],
    [picture.width, picture.height],
    [0, picture.height],
  ].map(([x, y]): [number, number] => [u.at[0] + x * c - y * s, u.at[1] + x * s + y * c])
}

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
    label(pen, name, X(pen, (box.minX + box.maxX) / 2), Y(pen, (box.minY + box.maxY) / 2))
  }
}

/** The frame of a chosen mesh or underlay. */
export function drawFrameChosen(pen: Pen, ring: readonly (readonly number[])[]): void {
  const { c, inks } = pen
  c.strokeStyle = inks.colour.rust
  c.lineWidth = 2.5
  c.setLineDash([3, 5])
  c.beginPath()
  traceLine(pen, ring, true)
  c.stroke()
  c.setLineDash([])
}
