import { computed } from 'vue'
import { factionIdOf, stanceOf, type Faction } from '@tidytrail/core/level'
import { useLevelStore } from '../../stores/level'
import { count } from '../../ui/figures'
import { defineView } from '../kind-view'
import { PLACES_LAYER } from '../layers'
import { useCollection, useRows } from '../plain-register'
import type { Register } from '../register'
import { FactionDrop } from './faction-drop'
import FactionCard from './FactionCard.vue'
import FactionFoot from './FactionFoot.vue'

const register: Register = {
  id: 'factions',
  stage: 'cast',
  name: 'Factions',
  find: 'Find a faction',
  symbol: FactionDrop,
  foot: FactionFoot,
  use() {
    const levels = useLevelStore()
    return {
      ...useCollection('factions'),
      rows: useRows<Faction>('factions', (_f, id) => {
        const { factions, spawners } = levels.doc
        const hostile = Object.keys(factions).filter((o) => stanceOf(factions, id, o) === 'hostile')
        const size = Object.values(spawners).filter((s) => factionIdOf(levels.doc, s) === id).length
        const against = hostile.map((o) => factions[o].name).join(', ')
        return { detail: `${count(size, 'spawner')}${against ? ` · against ${against}` : ''}`, size }
      }),
      empty: computed(() => 'No faction yet: nobody is hostile to anybody.'),
    }
  },
}

export const factionView = defineView({
  in: 'factions',
  stage: 'cast',
  layer: PLACES_LAYER,
  tone: 'text-ink',
  card: FactionCard,
  register,
})
