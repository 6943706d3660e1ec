import { briefIdsOf, stepsOf, type Brief } from '@tidytrail/core/level'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { count } from '../../ui/figures'
import { defineView } from '../kind-view'
import { PLACES_LAYER } from '../layers'
import { strokeSymbol, useCollection, useRows } from '../plain-register'
import type { Register } from '../register'
import BriefCard from './BriefCard.vue'
import BriefFoot from './BriefFoot.vue'

/** Briefs with how many are told by each, so that one nobody is told by is seen. */
const register: Register = {
  id: 'briefs',
  stage: 'cast',
  name: 'Briefs',
  find: 'Find a brief',
  plain: true,
  foot: BriefFoot,
  symbol: strokeSymbol(
    () => [
      { d: 'M3 1h10l4 4v11H3z', ink: 'ink', width: 1.3 },
      { d: 'M6 7h8M6 10h8M6 13h5', ink: 'faded', width: 1.1 },
    ],
    20,
    17,
  ),
  use() {
    const levels = useLevelStore()
    return {
      ...useCollection('briefs'),
      rows: useRows<Brief>('briefs', (brief, id) => {
        const { spawners, squads } = levels.doc
        const told = Object.values(spawners).filter((s) => briefIdsOf(levels.doc, s).includes(id)).length
        const mine = Object.values(squads).filter((s) => s.briefId === id).length
        const steps = stepsOf(brief).length
        return {
          detail: `${count(steps, 'step')}${brief.whens.length > 0 ? `, ${brief.whens.length} standing` : ''} · ${told + mine === 0 ? 'told to nobody' : `told to ${told}`}`,
          size: steps,
          users: told,
          tells: true,
        }
      }),
      empty: computed(() => 'No brief yet. Write one here, or on a spawner’s card.'),
    }
  },
}

/** It lies nowhere; it has a card and a list. */
export const briefView = defineView({
  in: 'briefs',
  stage: 'cast',
  layer: PLACES_LAYER,
  tone: 'text-ink',
  card: BriefCard,
  register,
})
