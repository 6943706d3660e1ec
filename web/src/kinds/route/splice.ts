import { addStop } from '@tidytrail/core/level'
import { X, Y } from '../../map/pen'
import { randomId } from '../../stores/random-id'
import type { MakeTool, MapPointer } from '../../tools/tool'

/** Puts new stops into legs. */
export const spliceTool: MakeTool = (ctx) => {
  let over: MapPointer | undefined
  let onLeg = false
  return {
    id: 'splice',
    label: 'Splice',
    key: 'i',
    stages: ['routes'],
    hint: 'Click on a leg to put a stop into it.',
    cursor: 'copy',
    down: () => true,
    move(p) {
      over = p
      onLeg = ctx.hit(p, ['leg'])?.kind === 'leg'
      ctx.redraw()
    },
    up(p) {
      const hit = ctx.hit(p, ['leg'])
      if (hit?.kind !== 'leg') {
        ctx.sheet.hint = 'There is no leg here to put a stop into.'
        return
      }
      if (ctx.levels.doc.routes[hit.id].locked) {
        ctx.sheet.hint = `${ctx.levels.doc.routes[hit.id].name} is locked; unlock it in the list first.`
        return
      }
      const stopId = randomId('stops')
      ctx.levels.perform(addStop, {
        routeId: hit.id,
        stopId,
        waypointId: randomId('waypoints'),
        at: p.at,
        index: hit.leg + 1,
      })
      ctx.sheet.choose([stopId])
    },
    draw(pen) {
      if (!over || !onLeg) return
      pen.c.strokeStyle = pen.inks.colour.rust
      pen.c.lineWidth = 2
      pen.c.beginPath()
      pen.c.arc(X(pen, over.at[0]), Y(pen, over.at[1]), 8, 0, 7)
      pen.c.stroke()
    },
    leave() {
      over = undefined
    },
  }
}
