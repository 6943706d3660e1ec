import { addThing, coverSchema, freshName, topRank } from '@tidytrail/core/level'
import { reactive } from 'vue'
import { randomId } from '../../stores/random-id'
import { ringTool } from '../../tools/draw-ring'
import type { MakeTool } from '../../tools/tool'
import PaintOptions from './PaintOptions.vue'

/** What covers of each kind are like unless one says otherwise. */
export const COVER_NATURE: Record<string, { speedFactor: number; grip: number }> = {
  road: { speedFactor: 1, grip: 1 },
  pavement: { speedFactor: 1, grip: 0.95 },
  grass: { speedFactor: 0.85, grip: 0.6 },
  mud: { speedFactor: 0.5, grip: 0.35 },
  water: { speedFactor: 0.6, grip: 0.5 },
  'off-limits': { speedFactor: 1, grip: 1 },
}
export const COVER_WORDS: Record<string, string> = {
  road: 'Road',
  pavement: 'Pavement',
  grass: 'Grass',
  mud: 'Mud',
  water: 'Water',
  'off-limits': 'Off limits',
}
export const coverWord = (kind: string) => COVER_WORDS[kind] ?? kind

/** The kind painted next. */
export const coverBrush = reactive({ kind: 'road' })

/** Paints a cover: a polygon of road, grass, mud and so on. */
export const coverTool: MakeTool = (ctx) =>
  ringTool(
    ctx,
    {
      id: 'cover',
      options: PaintOptions,
      label: 'Cover',
      key: 'v',
      stages: ['ground'],
      places: ['covers'],
      hint: 'Choose a kind, then click round its edge; a click on the first corner or Enter closes.',
      what: 'A cover',
    },
    (ring) => {
      const { kind } = coverBrush
      const id = randomId('covers')
      const thing = coverSchema.parse({
        name: freshName(ctx.levels.doc.covers, coverWord(kind)),
        kind,
        ring,
        rank: topRank(ctx.levels.doc.covers),
        ...(COVER_NATURE[kind] ?? {}),
      })
      ctx.levels.perform(addThing, { in: 'covers', id, thing })
      ctx.sheet.choose([id])
    },
  )
