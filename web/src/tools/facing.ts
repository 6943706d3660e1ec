import { toMillimetre } from '@tidytrail/core/geometry'
import type { InkName } from '../map/inks'
import { X, Y } from '../map/pen'
import type { MapPointer, Tool, ToolContext } from './tool'

const FACING_PX = 8

/**
 * Places things that face somewhere, one after the other: a click places, a drag says which way too.
 * @param place is told the place, the direction when one was given, and the pointer
 */
export function facingTool(
  ctx: ToolContext,
  of: Pick<Tool, 'id' | 'label' | 'key' | 'hint' | 'stages' | 'places'> & { readonly ink: InkName },
  place: (at: [number, number, number], facingRad: number | undefined, p: MapPointer) => void,
): Tool {
  let from: MapPointer | undefined
  let to: MapPointer | undefined
  return {
    id: of.id,
    label: of.label,
    key: of.key,
    stages: of.stages,
    hint: of.hint,
    cursor: 'crosshair',
    places: of.places,
    down(p) {
      from = to = p
      return true
    },
    move(p, dragging) {
      if (!dragging) return
      to = p
      ctx.redraw()
    },
    up(p) {
      const a = from
      from = to = undefined
      if (!a) return
      const turned = Math.hypot(p.sx - a.sx, p.sy - a.sy) > FACING_PX
      const at = a.at.map(toMillimetre) as [number, number, number]
      place(at, turned ? Math.round(Math.atan2(p.y - a.y, p.x - a.x) * 1e3) / 1e3 : undefined, a)
    },
    draw(pen) {
      if (!from || !to) return
      const { c, inks } = pen
      c.strokeStyle = inks.colour[of.ink]
      c.lineWidth = 2
      c.beginPath()
      c.moveTo(X(pen, from.at[0]), Y(pen, from.at[1]))
      c.lineTo(X(pen, to.x), Y(pen, to.y))
      c.stroke()
    },
    leave() {
      from = to = undefined
    },
  }
}
