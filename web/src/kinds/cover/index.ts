import { boxOf } from '@tidytrail/core/geometry'
import { byRank, type Cover } from '@tidytrail/core/level'
import { computed } from 'vue'
import type { Layer } from '../../map/layer'
import { drawRingChosen } from '../../map/outline'
import GroundFoot from '../GroundFoot.vue'
import { ORDER, ringTest } from '../hits'
import { defineView } from '../kind-view'
import { strokeSymbol, useCollection, useRows } from '../plain-register'
import CoverCard from './CoverCard.vue'
import { drawCoverLabels, drawCovers } from './draw'
import { coverTool, coverWord } from './paint'

const layer: Layer = {
  id: 'covers',
  name: 'Covers, each kind its own texture',
  strokes: [
    { d: 'M2 4h30v10H2z', ink: 'ink', dash: '2 2' },
    { d: 'M5 7h6M14 7h6M23 7h6M9 11h6M18 11h6', ink: 'faded' },
  ],
}

export const coverView = defineView({
  in: 'covers',
  stage: 'ground',
  layer,
  tone: 'text-ochre',
  word: (cover) => `${coverWord(cover.kind)} cover`,
  card: CoverCard,
  painters: [
    { on: 'under', order: 10, layer: layer.id, draw: (pen, { level }) => drawCovers(pen, level) },
    { on: 'under', order: 70, layer: layer.id, stage: 'ground', draw: (pen, { level }) => drawCoverLabels(pen, level) },
    {
      on: 'over',
      order: 3,
      draw(pen, { level, chosen, alone }) {
        for (const id of chosen) {
          const cover = level.covers[id]
          if (cover) drawRingChosen(pen, cover.ring, alone === id && !cover.locked)
        }
      },
    },
  ],
  hits: [
    ringTest('covers', layer.id, { order: ORDER.flat + 10, stage: 'ground', filled: true, list: byRank as never }),
  ],
  register: {
    id: 'covers',
    stage: 'ground',
    name: 'Covers',
    find: 'Find among the covers',
    symbol: strokeSymbol(() => [
      { d: 'M1 10c4-7 7-7 10-4s6 2 10-3v9c-5 3-8 2-10 0S5 12 1 15z', ink: 'ink', width: 1.2, dash: '2 1.5' },
    ]),
    foot: GroundFoot,
    use: () => ({
      ...useCollection('covers'),
      rows: useRows('covers', (c: Cover) => {
        const b = boxOf(c.ring)
        return {
          detail: `${coverWord(c.kind).toLowerCase()} · speed × ${+c.speedFactor.toFixed(2)} · grip ${+c.grip.toFixed(2)}`,
          size: (b.maxX - b.minX) * (b.maxY - b.minY),
        }
      }),
      empty: computed(() => 'Nothing painted yet. Take Cover in hand and click round a road.'),
    }),
  },
  tools: [coverTool],
  overlook: async () => (await import('./overlook')).part,
})
