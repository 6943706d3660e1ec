import { ringHolds } from '@tidytrail/core/geometry'
import { byRank, type Underlay } from '@tidytrail/core/level'
import type { Layer } from '../../map/layer'
import { drawFrameChosen } from '../../map/outline'
import { computed } from 'vue'
import { defineView } from '../kind-view'
import GroundFoot from '../GroundFoot.vue'
import { ORDER } from '../hits'
import { strokeSymbol, useCollection, useRows } from '../plain-register'
import { drawUnderlays, underlayRing } from './draw'
import { calibrateTool } from './calibrate'
import UnderlayCard from './UnderlayCard.vue'

const layer: Layer = {
  id: 'underlays',
  name: 'Underlays',
  strokes: [{ d: 'M4 2h26v14H4zM4 13l8-6 6 4 5-3 7 5', ink: 'faded' }],
}

export const underlayView = defineView({
  in: 'underlays',
  stage: 'ground',
  layer,
  tone: 'text-faded',
  card: UnderlayCard,
  painters: [
    { on: 'paper', order: 0, layer: layer.id, draw: (pen, { level, pictures }) => drawUnderlays(pen, level, pictures) },
    {
      on: 'over',
      order: 2,
      draw(pen, { level, chosen, pictures }) {
        for (const id of chosen) {
          const underlay = level.underlays[id]
          const picture = underlay && pictures.get(underlay.assetId)
          if (picture) drawFrameChosen(pen, underlayRing(underlay, picture))
        }
      },
    },
  ],
  hits: [
    {
      order: ORDER.flat + 20,
      layer: layer.id,
      finds: 'underlays',
      find({ level, stage, pictures }, { x, y }, offer) {
        if (stage !== 'ground') return
        for (const [id, u] of byRank(level.underlays).reverse()) {
          const picture = pictures.get(u.assetId)
          if (u.hidden || u.locked || !picture || !ringHolds(underlayRing(u, picture), x, y)) continue
          return offer(0, { kind: 'thing', in: 'underlays', id })
        }
      },
    },
  ],
  register: {
    id: 'underlays',
    stage: 'ground',
    name: 'Underlays',
    find: 'Find among the underlays',
    symbol: strokeSymbol(() => [{ d: 'M2 2h18v12H2zM2 11l5-5 4 4 3-2 6 5', ink: 'ink', width: 1.1 }]),
    foot: GroundFoot,
    use: () => ({
      ...useCollection('underlays'),
      rows: useRows('underlays', (u: Underlay) => ({
        detail: `underlay · ${(u.metresPerPixel * 100).toPrecision(3)} cm a pixel`,
        size: u.metresPerPixel,
      })),
      empty: computed(() => 'No plan yet. Import a PNG or JPEG to trace.'),
    }),
  },
  tools: [calibrateTool],
})
