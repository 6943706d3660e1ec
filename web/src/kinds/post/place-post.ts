import { addThing, areaOf, freshName, postSchema } from '@tidytrail/core/level'
import { randomId } from '../../stores/random-id'
import { facingTool } from '../../tools/facing'
import type { MakeTool } from '../../tools/tool'

/** Places posts, one after the other; one that lies in a zone belongs to it. */
export const postTool: MakeTool = (ctx) =>
  facingTool(
    ctx,
    {
      id: 'post',
      label: 'Post',
      key: 'p',
      stages: ['cast'],
      places: ['posts'],
      hint: 'Click to place posts; press and drag to say which way they face. Escape ends.',
      ink: 'ink',
    },
    (at, facingRad) => {
      const level = ctx.levels.doc
      const zone = Object.entries(level.zones).find(([, z]) => areaOf(level, z)?.holds(at[0], at[1], at[2]))
      const id = randomId('posts')
      const thing = postSchema.parse({
        name: freshName(level.posts, 'Post'),
        at,
        facingRad: facingRad ?? 0,
        zoneId: zone?.[0] ?? null,
      })
      ctx.levels.perform(addThing, { in: 'posts', id, thing })
      ctx.sheet.choose([id])
    },
  )
