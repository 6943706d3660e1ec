import { computed, watch } from 'vue'
import { strokeSymbol } from '../../kinds/plain-register'
import ProfileLook from '../../kinds/profile/ProfileLook.vue'
import type { Register, RegisterRow } from '../../kinds/register'
import { requestPlace } from '../../map/zoom-wish'
import { useSheetStore } from '../../stores/sheet'
import { useSurveyStore } from '../../stores/survey'
import { count } from '../../ui/figures'
import IslandFoot from './IslandFoot.vue'

const INKS = ['pine', 'plum', 'ochre', 'lake', 'rust']
const MOST_LISTED = 200
const PREFIX = 'island-'

const numberOf = (id: string) => Number(id.slice(PREFIX.length))
const area = (m2: number) => (m2 < 10 ? m2.toFixed(1) : Math.round(m2).toLocaleString('en'))

/** What is said of islands before the reach has been worked out. */
const NOT_KNOWN = {
  begun: 'Where this profile can be is being worked out.',
  stopped: 'Where this profile can be is not known: the survey has stopped.',
}

/** The islands of the reach of the profile that is looked at. */
export const islandRegister: Register = {
  id: 'islands',
  stage: 'reach',
  name: 'Islands',
  find: 'Find among the islands',
  fixed: true,
  symbol: strokeSymbol(
    (row) => [{ d: 'M1 1h18v14H1z', ink: INKS[numberOf(row.id) % INKS.length], width: 1.6, dash: '2 2.5' }],
    20,
    16,
  ),
  top: ProfileLook,
  foot: IslandFoot,
  use() {
    const sheet = useSheetStore()
    const survey = useSurveyStore()
    const islands = computed(() => (survey.profileId ? survey.reach.get(survey.profileId)?.islands : undefined) ?? [])
    /** Is it known which islands there are, even if there are none? */
    const known = computed(
      () => islands.value.length > 0 || survey.standing === 'known' || survey.standing === 'renewed',
    )
    watch([islands, () => survey.profileId], () => void survey.askIslands(), { immediate: true })
    const zoom = (id: string) => {
      const island = islands.value[numberOf(id)]
      if (island) requestPlace(island.at)
    }
    // An island that is chosen in the list is looked at.
    watch(
      () => sheet.chosen,
      (id) => id?.startsWith(PREFIX) && zoom(id),
    )
    return {
      rows: computed(() =>
        islands.value.slice(0, MOST_LISTED).map((island, i): RegisterRow => {
          const users = survey.islandFacts[i]?.users.length ?? 0
          return {
            id: `${PREFIX}${i}`,
            name: i === 0 ? 'Main island' : `Island ${i + 1}`,
            detail: `${area(island.areaM2)} m² · at ${island.at[2].toFixed(1)} m`,
            size: island.areaM2,
            mark: users > 0 ? { text: `${users} here`, tone: 'plain' as const } : undefined,
          }
        }),
      ),
      count: computed(() => islands.value.length),
      figure: computed(() => (known.value ? count(Math.min(islands.value.length, MOST_LISTED), 'island') : '…')),
      empty: computed(() =>
        !known.value
          ? NOT_KNOWN[survey.standing === 'stopped' ? 'stopped' : 'begun']
          : survey.profileId
            ? 'Nobody of this profile can be anywhere here. Try “Why not here?” on the map.'
            : 'This level has no profile. Without a body nothing can be reached.',
      ),
      actions: { zoom },
      lists: (id) => id.startsWith(PREFIX),
    }
  },
}
