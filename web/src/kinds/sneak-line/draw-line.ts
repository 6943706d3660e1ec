import { addThing, freshName, sneakLineSchema, standInIdOf } from '@tidytrail/core/level'
import { randomId } from '../../stores/random-id'
import { lineTool } from '../../tools/draw-ring'
import type { MakeTool } from '../../tools/tool'

/** Draws the line a player would sneak along. */
export const sneakTool: MakeTool = (ctx) =>
  lineTool(
    ctx,
    {
      id: 'sneak',
      label: 'Sneak line',
      key: 'u',
      stages: ['rehearse'],
      places: ['sneakLines'],
      hint: 'Click along the way a player would take. Enter ends it, Backspace takes the last place back.',
      what: 'A sneak line',
    },
    (points) => {
      const id = randomId('sneakLines')
      const { spawners, profiles } = ctx.levels.doc
      const profile = profiles[spawners[standInIdOf(spawners) ?? '']?.profileId ?? '']
      const paceMps = profile?.gaits[profile.gait]
      const thing = sneakLineSchema.parse({
        name: freshName(ctx.levels.doc.sneakLines, 'Sneak line'),
        points,
        ...(profile && { heightM: profile.heightM }),
        ...(paceMps && { paceMps, slowMps: Math.max(0.05, paceMps / 2) }),
      })
      ctx.levels.perform(addThing, { in: 'sneakLines', id, thing })
      ctx.sheet.choose([id])
    },
  )
