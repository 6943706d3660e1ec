import { toMillimetre } from '@tidytrail/core/geometry'
import { addThing, freshName, watchSpotSchema } from '@tidytrail/core/level'
import { randomId } from '../../stores/random-id'
import type { MakeTool } from '../../tools/tool'

/** Places watch spots, one after the other. */
export const spotTool: MakeTool = (ctx) => ({
  id: 'spot',
  label: 'Watch spot',
  key: 'i',
  stages: ['rehearse'],
  places: ['watchSpots'],
  hint: 'Click where nobody is to be watching, to see when that is so. Escape ends.',
  cursor: 'crosshair',
  down: () => true,
  up(p) {
    const id = randomId('watchSpots')
    const thing = watchSpotSchema.parse({
      name: freshName(ctx.levels.doc.watchSpots, 'Watch spot'),
      at: p.at.map(toMillimetre),
    })
    ctx.levels.perform(addThing, { in: 'watchSpots', id, thing })
    ctx.sheet.choose([id])
  },
})
