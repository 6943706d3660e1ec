import { toMillimetre } from '@tidytrail/core/geometry'
import { addThing, freshName, zoneSchema, type Zone } from '@tidytrail/core/level'
import { X, Y } from '../../map/pen'
import { randomId } from '../../stores/random-id'
import { ringTool } from '../../tools/draw-ring'
import type { MakeTool, MapPointer } from '../../tools/tool'
import { zoneShape } from './zone-options'
import ZoneOptions from './ZoneOptions.vue'

const HINTS = {
  polygon: 'Click round the floor that is meant; Enter closes it. A brief may say to be in it.',
  circle: 'Press in the middle of the floor that is meant, and drag to its rim.',
  band: 'Click a route: the zone lies along it on either side.',
} as const

/** Draws a zone: a stretch of floor briefs and spawners may name, by its outline, as a circle or along a route. */
export const zoneTool: MakeTool = (ctx) => {
  let middle: MapPointer | undefined
  let rim: MapPointer | undefined

  function make(values: Partial<Zone>): void {
    const id = randomId('zones')
    const thing = zoneSchema.parse({ name: freshName(ctx.levels.doc.zones, 'Zone'), ...values })
    ctx.levels.perform(addThing, { in: 'zones', id, thing })
    ctx.sheet.choose([id])
  }
  const outline = ringTool(
    ctx,
    {
      id: 'zone',
      label: 'Zone',
      key: 'z',
      stages: ['cast'],
      hint: HINTS.polygon,
      options: ZoneOptions,
      what: 'A zone',
    },
    (ring) => make({ ring }),
  )
  /** The place of the pointer, to the millimetre. */
  const flat = (p: MapPointer): [number, number] => [toMillimetre(p.at[0]), toMillimetre(p.at[1])]

  return {
    ...outline,
    places: ['zones'],
    get hint() {
      return HINTS[zoneShape.value]
    },
    down(p) {
      if (zoneShape.value === 'polygon') return outline.down!(p)
      middle = rim = p
      return true
    },
    move(p, dragging) {
      if (zoneShape.value === 'polygon') return outline.move!(p, dragging)
      if (!dragging) return
      rim = p
      ctx.redraw()
    },
    up(p) {
      if (zoneShape.value === 'polygon') return outline.up!(p)
      const from = middle
      middle = rim = undefined
      if (!from) return
      if (zoneShape.value === 'band') {
        const hit = ctx.hit(p, ['stop', 'leg'])
        const id = hit?.kind === 'stop' ? hit.routeId : hit?.id
        if (!id || !ctx.levels.doc.routes[id]) {
          ctx.sheet.hint = 'There is no route here. Click the line of one.'
          return
        }
        make({ shape: 'band', routeId: id, ring: [] })
        return
      }
      if (Math.hypot(p.x - from.x, p.y - from.y) < 0.5) {
        ctx.sheet.hint = 'Drag from the middle to the rim: a circle is at least half a metre wide.'
        return
      }
      make({ shape: 'circle', ring: [flat(from), flat(p)] })
    },
    draw(pen) {
      if (zoneShape.value === 'polygon') return outline.draw!(pen)
      if (zoneShape.value !== 'circle' || !middle || !rim) return
      const { c, inks } = pen
      c.strokeStyle = inks.colour.rust
      c.lineWidth = 2
      c.setLineDash([6, 4])
      c.beginPath()
      const [x, y] = [X(pen, middle.at[0]), Y(pen, middle.at[1])]
      c.arc(x, y, Math.hypot(X(pen, rim.at[0]) - x, Y(pen, rim.at[1]) - y), 0, 7)
      c.stroke()
      c.setLineDash([])
    },
    leave() {
      middle = rim = undefined
      outline.leave!()
    },
  }
}
