/** How things are drawn that do not say it of themselves: by their places and outlines. */
import { rolesIn, type AnyThing, type Collection } from '@tidytrail/core/level'
import type { Painter } from '../map/layer'
import { label, traceLine, X, Y, type Pen } from '../map/pen'
import type { InkName } from '../map/inks'

/** Names are drawn from so many pixels a metre on. */
const NAMES_FROM = 6

export function derivedPainters(collection: Collection, layer: string, ink: InkName): Painter[] {
  const roles = [...rolesIn(collection)].filter(([, role]) => role === 'point' || role === 'ring')
  if (roles.length === 0) return []
  return [
    {
      on: 'over',
      order: 41,
      layer,
      draw(pen, { level, chosen, hovered }) {
        for (const [id, t] of Object.entries(level[collection])) {
          const thing = t as AnyThing
          if (thing.hidden) continue
          const { colour } = pen.inks
          pen.c.strokeStyle = pen.c.fillStyle = chosen.has(id) ? colour.rust : colour[ink]
          pen.c.lineWidth = chosen.has(id) || hovered === id ? 2.6 : 1.6
          for (const [key, role] of roles) {
            const value = (t as unknown as Record<string, never>)[key]
            if (value !== undefined) drawPart(pen, role, value, thing.name ?? '')
          }
        }
      },
    },
  ]
}

function drawPart(pen: Pen, role: string, value: readonly number[] | readonly (readonly number[])[], name: string) {
  const { c } = pen
  if (role === 'ring') {
    const ring = value as readonly (readonly number[])[]
    c.setLineDash([9, 4])
    c.beginPath()
    traceLine(pen, ring, true)
    c.stroke()
    c.setLineDash([])
    const top = ring.reduce((a, b) => (b[1] > a[1] ? b : a))
    if (name) label(pen, name, X(pen, top[0]), Y(pen, top[1]) + 12, { size: 11 })
    return
  }
  const [x, y] = value as readonly number[]
  c.beginPath()
  c.arc(X(pen, x), Y(pen, y), 5, 0, 7)
  c.stroke()
  if (pen.view.scale > NAMES_FROM && name) label(pen, name, X(pen, x), Y(pen, y) + 15, { size: 11 })
}
