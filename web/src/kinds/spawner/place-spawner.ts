import { addThing, freshName, spawnerSchema } from '@tidytrail/core/level'
import { X, Y } from '../../map/pen'
import { randomId } from '../../stores/random-id'
import type { MakeTool, MapPointer } from '../../tools/tool'

const FACING_PX = 8

/** Places a spawner; dragging on says which way its agents face. */
export const placeSpawnerTool: MakeTool = (ctx) => {
  let from: MapPointer | undefined
  let to: MapPointer | undefined
  return {
    id: 'spawner',
    label: 'Spawner',
    key: 's',
    stages: ['cast'],
    hint: 'Click to place a spawner; press and drag to say which way its agents face.',
    cursor: 'crosshair',
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
      const level = ctx.levels.doc
      const id = randomId('spawners')
      const thing = spawnerSchema.parse({
        name: freshName(level.spawners, 'Spawner'),
        at: [...a.at],
        facingRad: turned ? Math.round(Math.atan2(p.y - a.y, p.x - a.x) * 1e3) / 1e3 : 0,
        profileId: ctx.survey.profileId ?? null,
      })
      ctx.levels.perform(addThing, { in: 'spawners', id, thing })
      ctx.sheet.choose([id])
      ctx.done()
    },
    draw(pen) {
      if (!from || !to) return
      const { c, inks } = pen
      c.strokeStyle = inks.colour.pine
      c.lineWidth = 2
      c.beginPath()
      c.moveTo(X(pen, from.at[0]), Y(pen, from.at[1]))
      c.lineTo(to.sx, to.sy)
      c.stroke()
    },
    leave() {
      from = to = undefined
    },
  }
}
