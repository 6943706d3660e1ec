import { addThing, freshName, reachAreaSchema } from '@tidytrail/core/level'
import { randomId } from '../../stores/random-id'
import { ringTool } from '../../tools/draw-ring'
import type { MakeTool } from '../../tools/tool'

/** Draws a reach area, open to the profile looked at. */
export const areaTool: MakeTool = (ctx) =>
  ringTool(
    ctx,
    {
      id: 'area',
      label: 'Area',
      key: 'a',
      stages: ['reach'],
      places: ['reachAreas'],
      hint: 'Click round where the profile may go. Without any area it may go everywhere.',
      what: 'An area',
    },
    (ring) => {
      const id = randomId('reachAreas')
      const { profileId } = ctx.survey
      const thing = reachAreaSchema.parse({
        name: freshName(ctx.levels.doc.reachAreas, 'Area'),
        ring,
        profileIds: profileId ? [profileId] : [],
      })
      ctx.levels.perform(addThing, { in: 'reachAreas', id, thing })
      ctx.sheet.choose([id])
    },
  )
