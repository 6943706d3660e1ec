import type { ReachArea } from '@tidytrail/core/level'
import { computed } from 'vue'
import type { Layer } from '../../map/layer'
import { drawRingChosen } from '../../map/outline'
import { useLevelStore } from '../../stores/level'
import { ringTest } from '../hits'
import { defineView } from '../kind-view'
import { strokeSymbol, useCollection, useRows } from '../plain-register'
import ProfileLook from '../profile/ProfileLook.vue'
import AreaCard from './AreaCard.vue'
import AreaFoot from './AreaFoot.vue'
import { drawAreas } from './draw'
import { areaTool } from './draw-area'

const layer: Layer = {
  id: 'areas',
  name: 'Reach areas',
  strokes: [{ d: 'M3 4l13-2 15 4-3 10H6z', ink: 'pine', width: 1.6, dash: '5 2 1 2' }],
}

export const reachAreaView = defineView({
  in: 'reachAreas',
  stage: 'reach',
  layer,
  tone: 'text-pine',
  card: AreaCard,
  painters: [
    {
      on: 'under',
      order: 60,
      layer: layer.id,
      reads: ['profiles'],
      draw: (pen, { level, stage }) => drawAreas(pen, level, stage === 'reach'),
    },
    {
      on: 'over',
      order: 4,
      draw(pen, { level, chosen, alone }) {
        for (const id of chosen) {
          const area = level.reachAreas[id]
          if (area) drawRingChosen(pen, area.ring, alone === id && !area.locked)
        }
      },
    },
  ],
  hits: [ringTest('reachAreas', layer.id, { stage: 'reach' })],
  register: {
    id: 'reachAreas',
    stage: 'reach',
    name: 'Areas',
    find: 'Find among the areas',
    symbol: strokeSymbol(() => [{ d: 'M2 3l9-1 9 3-2 9H4z', ink: 'pine', width: 1.5, dash: '4 1.5 1 1.5' }]),
    top: ProfileLook,
    foot: AreaFoot,
    use() {
      const levels = useLevelStore()
      const who = (ids: readonly string[]) => ids.map((id) => levels.doc.profiles[id]?.name).filter(Boolean)
      return {
        ...useCollection('reachAreas'),
        figure: computed(() => {
          const n = Object.keys(levels.doc.reachAreas).length
          return `${n} ${n === 1 ? 'area' : 'areas'}`
        }),
        rows: useRows('reachAreas', (a: ReachArea) => ({
          detail: who(a.profileIds).join(', ') || 'nobody may go there',
          size: a.ring.length,
        })),
        empty: computed(() => 'No area, so everyone may go everywhere. Draw one to keep a profile in.'),
      }
    },
  },
  tools: [areaTool],
  overlook: async () => (await import('./overlook')).part,
})
