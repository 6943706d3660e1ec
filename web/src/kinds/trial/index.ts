import { trialWords } from '@tidytrail/core/insight'
import type { Trial } from '@tidytrail/core/level'
import { computed } from 'vue'
import { useInsightStore } from '../../stores/insight'
import { useLevelStore } from '../../stores/level'
import { defineView } from '../kind-view'
import { strokeSymbol, useCollection, useRows } from '../plain-register'
import type { Register } from '../register'
import { WINDOWS_LAYER } from '../watch-spot/layer'
import TrialCard from './TrialCard.vue'
import TrialFoot from './TrialFoot.vue'

const STATES = {
  true: { text: 'holds', tone: 'good' },
  false: { text: 'fails', tone: 'bad' },
  undefined: { text: 'not told', tone: 'plain' },
} as const

const register: Register = {
  id: 'trials',
  stage: 'rehearse',
  name: 'Trials',
  find: 'Find a trial',
  symbol: strokeSymbol(() => [{ d: 'M3 3h12v12H3zM6 9l3 3 7-9', ink: 'pine', width: 1.5 }], 19, 17),
  foot: TrialFoot,
  use() {
    const insight = useInsightStore()
    const levels = useLevelStore()
    return {
      ...useCollection('trials'),
      rows: useRows<Trial>('trials', (trial, id) => {
        const result = insight.results.get(id)
        return {
          name: trial.name || trialWords(levels.doc, trial),
          detail: trial.off ? 'not looked at' : (result?.words ?? 'not tried yet'),
          size: 0,
          mark: result && STATES[`${result.holds}`],
        }
      }),
      empty: computed(
        () => 'A trial is a statement that must hold. Rehearse, and let some be suggested from what was seen.',
      ),
    }
  },
}

/** It lies nowhere: it has a card and a list. */
export const trialView = defineView<'trials'>({
  in: 'trials',
  stage: 'rehearse',
  layer: WINDOWS_LAYER,
  tone: 'text-pine',
  card: TrialCard,
  painters: [],
  hits: [],
  register,
  found: (level, id) => ({
    name: level.trials[id].name || trialWords(level, level.trials[id]),
    kind: 'trial',
  }),
})
