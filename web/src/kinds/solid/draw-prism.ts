import { toMillimetre } from '@tidytrail/core/geometry'
import { heightAt, terrainOf } from '@tidytrail/core/ground'
import { addThing, freshName, solidSchema } from '@tidytrail/core/level'
import { randomId } from '../../stores/random-id'
import { ringTool } from '../../tools/draw-ring'
import type { MakeTool } from '../../tools/tool'

/** Draws a prism corner by corner. */
export const prismTool: MakeTool = (ctx) =>
  ringTool(
    ctx,
    {
      id: 'prism',
      label: 'Prism',
      key: 'p',
      stages: ['ground'],
      places: ['solids'],
      hint: 'Click corner by corner; a click on the first corner or Enter closes. Shift keeps right angles, Backspace takes the last one back.',
      what: 'A prism',
    },
    (ring) => {
      const level = ctx.levels.doc
      const { field } = terrainOf(level)
      const id = randomId('solids')
      const thing = solidSchema.parse({
        shape: 'prism',
        name: freshName(level.solids, 'Block'),
        ring,
        baseM: toMillimetre(Math.min(...ring.map(([x, y]) => heightAt(field, x, y)))),
        heightM: 3,
      })
      ctx.levels.perform(addThing, { in: 'solids', id, thing })
      ctx.sheet.choose([id])
    },
  )
