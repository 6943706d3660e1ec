import { addThing, freshName, solidSchema } from '@tidytrail/core/level'
import { floorsAt, floorUnder, heightAt, terrainOf } from '@tidytrail/core/ground'
import { toMillimetre } from '@tidytrail/core/geometry'
import { metres } from '../../ui/figures'
import { label, X, Y } from '../../map/pen'
import { randomId } from '../../stores/random-id'
import type { MakeTool, MapPointer, Tool, ToolContext } from '../../tools/tool'

const NEW_BOX_M = 3
const LEAST_M = 0.2

/** Draws a rectangle by dragging from corner to corner. */
function rectangleTool(
  ctx: ToolContext,
  of: Pick<Tool, 'id' | 'label' | 'key' | 'hint'>,
  finish: (a: MapPointer, b: MapPointer) => void,
): Tool {
  let from: MapPointer | undefined
  let to: MapPointer | undefined
  return {
    ...of,
    stages: ['ground'],
    cursor: 'crosshair',
    snapsTo: 'shapes',
    places: ['solids'],
    down(p) {
      from = to = p
      return true
    },
    move(p, dragging) {
      if (!dragging || !from) return
      to = p
      ctx.redraw()
    },
    up(p) {
      const a = from
      from = to = undefined
      ctx.redraw()
      if (!a) return
      if (Math.abs(p.at[0] - a.at[0]) < LEAST_M || Math.abs(p.at[1] - a.at[1]) < LEAST_M) {
        ctx.sheet.hint = 'Press at one corner and drag to the opposite one.'
        return
      }
      finish(a, p)
    },
    press(key) {
      if (key !== 'Escape' || !from) return false
      from = to = undefined
      ctx.redraw()
      return true
    },
    draw(pen) {
      if (!from || !to) return
      const { c, inks } = pen
      const x0 = X(pen, from.at[0])
      const y0 = Y(pen, from.at[1])
      const x1 = X(pen, to.at[0])
      const y1 = Y(pen, to.at[1])
      c.strokeStyle = inks.colour.rust
      c.lineWidth = 2
      c.setLineDash([6, 4])
      c.strokeRect(Math.min(x0, x1), Math.min(y0, y1), Math.abs(x1 - x0), Math.abs(y1 - y0))
      c.setLineDash([])
      const size = `${metres(Math.abs(to.at[0] - from.at[0]))} × ${metres(Math.abs(to.at[1] - from.at[1]))}`
      label(pen, size, (x0 + x1) / 2, (y0 + y1) / 2, { bold: true })
    },
    leave() {
      from = to = undefined
    },
  }
}

const middle = (a: MapPointer, b: MapPointer): [number, number] => [
  toMillimetre((a.at[0] + b.at[0]) / 2),
  toMillimetre((a.at[1] + b.at[1]) / 2),
]

export const boxTool: MakeTool = (ctx) =>
  rectangleTool(
    ctx,
    {
      id: 'box',
      label: 'Box',
      key: 'b',
      hint: 'Drag from corner to corner, one box after the other. The last one is turned, resized and moved as it stands; Alt begins one on it. Escape ends.',
    },
    (a, b) => {
      const level = ctx.levels.doc
      const { field } = terrainOf(level)
      const corners = [a.at, b.at, [a.at[0], b.at[1]], [b.at[0], a.at[1]]]
      const baseM = toMillimetre(Math.min(...corners.map(([x, y]) => heightAt(field, x, y))))
      const id = randomId('solids')
      const thing = solidSchema.parse({
        shape: 'box',
        name: freshName(level.solids, 'Block'),
        at: middle(a, b),
        sizeX: toMillimetre(Math.abs(b.at[0] - a.at[0])),
        sizeY: toMillimetre(Math.abs(b.at[1] - a.at[1])),
        baseM,
        heightM: NEW_BOX_M,
      })
      ctx.levels.perform(addThing, { in: 'solids', id, thing })
      ctx.sheet.choose([id])
    },
  )

export const cylinderTool: MakeTool = (ctx) =>
  rectangleTool(
    ctx,
    {
      id: 'cylinder',
      label: 'Cylinder',
      key: 'y',
      hint: 'Drag the square it stands in, from corner to corner, one after the other. Escape ends.',
    },
    (a, b) => {
      const level = ctx.levels.doc
      const at = middle(a, b)
      const radiusM = Math.min(Math.abs(b.at[0] - a.at[0]), Math.abs(b.at[1] - a.at[1])) / 2
      const { field } = terrainOf(level)
      const id = randomId('solids')
      const thing = solidSchema.parse({
        shape: 'cylinder',
        name: freshName(level.solids, 'Drum'),
        at,
        radiusM: toMillimetre(radiusM),
        baseM: toMillimetre(heightAt(field, ...at)),
        heightM: NEW_BOX_M,
      })
      ctx.levels.perform(addThing, { in: 'solids', id, thing })
      ctx.sheet.choose([id])
    },
  )

/** Steps of new stairs rise about this much, metres. */
const RISER_M = 0.17

export const rampTool: MakeTool = (ctx) => risingTool(ctx, { id: 'ramp', label: 'Ramp', key: 'r' })
export const stairsTool: MakeTool = (ctx) => risingTool(ctx, { id: 'stairs', label: 'Stairs', key: 't' })

/** Ramps and stairs: from the floor at the low end to the floor at the high end. */
function risingTool(ctx: ToolContext, of: { id: 'ramp' | 'stairs'; label: string; key: string }): Tool {
  return rectangleTool(
    ctx,
    { ...of, hint: 'Press at the low end and drag to the high end; it joins the floors found at both. Escape ends.' },
    (a, b) => {
      const level = ctx.levels.doc
      const dx = b.at[0] - a.at[0]
      const dy = b.at[1] - a.at[1]
      const along = Math.abs(dx) >= Math.abs(dy)
      const terrain = terrainOf(level)
      const z = (x: number, y: number) => floorUnder(floorsAt(terrain, x, y), Infinity).z
      const [mx, my] = middle(a, b)
      const low = along ? z(a.at[0], my) : z(mx, a.at[1])
      const high = along ? z(b.at[0] + Math.sign(dx) * 0.3, my) : z(mx, b.at[1] + Math.sign(dy) * 0.3)
      const heightM = high - low > 0.05 ? toMillimetre(high - low) : 1
      const id = randomId('solids')
      const turnRad = along ? (dx > 0 ? 0 : Math.PI) : dy > 0 ? Math.PI / 2 : -Math.PI / 2
      const thing = solidSchema.parse({
        shape: of.id,
        name: freshName(level.solids, of.label),
        at: [mx, my],
        sizeX: toMillimetre(along ? Math.abs(dx) : Math.abs(dy)),
        sizeY: toMillimetre(along ? Math.abs(dy) : Math.abs(dx)),
        turnRad: Math.round(turnRad * 1e4) / 1e4,
        baseM: toMillimetre(low),
        heightM,
        ...(of.id === 'stairs' ? { steps: Math.max(1, Math.round(heightM / RISER_M)) } : {}),
        walkable: true,
      })
      ctx.levels.perform(addThing, { in: 'solids', id, thing })
      ctx.sheet.choose([id])
    },
  )
}
