import { defineView } from '../kind-view'
import { PLACES_LAYER } from '../layers'
import { strokeSymbol, useCollection, useRows } from '../plain-register'
import type { Register } from '../register'
import { computed } from 'vue'
import { nameOf, type Squad } from '@tidytrail/core/level'
import { useLevelStore } from '../../stores/level'
import SquadCard from './SquadCard.vue'
import SquadFoot from './SquadFoot.vue'

const register: Register = {
  id: 'squads',
  stage: 'cast',
  name: 'Squads',
  find: 'Find a squad',
  foot: SquadFoot,
  symbol: strokeSymbol(
    () => [
      {
        d: 'M3 11c-2 0-2-4 0-4 2 0 4 1 5 2-1 1-3 2-5 2zM11 15c-2 0-2-4 0-4 2 0 4 1 5 2-1 1-3 2-5 2zM11 6C9 6 9 2 11 2c2 0 4 1 5 2-1 1-3 2-5 2z',
        ink: 'ink',
        width: 1.3,
      },
    ],
    20,
    17,
  ),
  use() {
    const levels = useLevelStore()
    return {
      ...useCollection('squads'),
      rows: useRows<Squad>('squads', (squad, id) => {
        const size = Object.values(levels.doc.spawners).reduce((n, s) => n + (s.squadId === id ? s.count : 0), 0)
        const zone = squad.zoneId ? nameOf(levels.doc, squad.zoneId) : 'no zone'
        return { detail: `${size} · ${zone}`, size, tells: true }
      }),
      empty: computed(() => 'No squad yet. One shares a brief, a zone and its posts.'),
    }
  },
}

export const squadView = defineView({
  in: 'squads',
  stage: 'cast',
  layer: PLACES_LAYER,
  tone: 'text-ink',
  card: SquadCard,
  register,
})
