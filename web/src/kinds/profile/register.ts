import { bodyOf, type Profile } from '@tidytrail/core/level'
import { computed, watch } from 'vue'
import { useSheetStore } from '../../stores/sheet'
import { useLevelStore } from '../../stores/level'
import { useSurveyStore } from '../../stores/survey'
import { metres } from '../../ui/figures'
import { useCollection, useRows } from '../plain-register'
import type { Register } from '../register'
import ProfileFoot from './ProfileFoot.vue'
import ProfileSymbol from './ProfileSymbol.vue'

export const register: Register = {
  id: 'profiles',
  stage: 'reach',
  name: 'Profiles',
  find: 'Find among the profiles',
  symbol: ProfileSymbol,
  foot: ProfileFoot,
  use() {
    const sheet = useSheetStore()
    const levels = useLevelStore()
    const survey = useSurveyStore()
    // A chosen profile is the one looked at.
    watch(
      () => sheet.chosen,
      (id) => {
        if (id && levels.doc.profiles[id]) survey.profileChoice = id
      },
    )
    return {
      ...useCollection('profiles'),
      rows: useRows('profiles', (p: Profile, id) => ({
        detail: `${bodyOf(p.medium).word} · ${metres(2 * p.radiusM)} wide · ${metres(p.heightM)} high`,
        size: p.heightM,
        mark: id === survey.profileId ? { text: 'shown', tone: 'good' as const } : undefined,
      })),
      empty: computed(() => 'No profile yet. A profile is a kind of body: how wide, how high, what it can climb.'),
    }
  },
}
