import { addThing, freshName, zoneSchema } from '@tidytrail/core/level'
import { randomId } from '../../stores/random-id'
import { ringTool } from '../../tools/draw-ring'
import type { MakeTool } from '../../tools/tool'

/** Draws a zone: a stretch of floor briefs may name. */
export const zoneTool: MakeTool = (ctx) =>
  ringTool(
    ctx,
    {
      id: 'zone',
      label: 'Zone',
      key: 'z',
      stages: ['cast'],
      hint: 'Click round the floor that is meant. A brief may say to wander in it.',
      what: 'A zone',
    },
    (ring) => {
      const id = randomId('zones')
      const thing = zoneSchema.parse({ name: freshName(ctx.levels.doc.zones, 'Zone'), ring })
      ctx.levels.perform(addThing, { in: 'zones', id, thing })
      ctx.sheet.choose([id])
    },
  )
