import { addThing, freshName, roadSchema } from '@tidytrail/core/level'
import { randomId } from '../../stores/random-id'
import { lineTool } from '../../tools/draw-ring'
import type { MakeTool } from '../../tools/tool'
import { paving } from './road-options'
import RoadOptions from './RoadOptions.vue'

/** Draws the middle of a road, from which its lanes are laid. */
export const roadTool: MakeTool = (ctx) =>
  lineTool(
    ctx,
    {
      id: 'road',
      label: 'Road',
      key: 'q',
      stages: ['routes'],
      places: ['roads'],
      options: RoadOptions,
      hint: 'Click along the middle of the road. Its lanes are laid on either side. Enter ends it, Backspace takes the last place back.',
      what: 'A road',
    },
    (points) => {
      const { ahead, back, laneM, pavementM, smooth } = paving
      if (ahead + back === 0 && pavementM === 0) {
        ctx.sheet.hint = 'A road needs a lane or a pavement: say how many lanes it has.'
        return
      }
      const id = randomId('roads')
      const thing = roadSchema.parse({
        name: freshName(ctx.levels.doc.roads, 'Road'),
        points,
        curve: smooth ? 'smooth' : 'straight',
        ahead,
        back,
        laneM,
        pavementLeftM: pavementM,
        pavementRightM: pavementM,
      })
      ctx.levels.perform(addThing, { in: 'roads', id, thing })
      ctx.sheet.choose([id])
    },
  )
