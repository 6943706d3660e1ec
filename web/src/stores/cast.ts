import type { SuggestedPost } from '@tidytrail/core/reach'
import { defineStore } from 'pinia'
import { ref, shallowRef, watch } from 'vue'
import type { CastFacts } from '../workers/surveyor.protocol'
import { useLevelStore } from './level'
import { useSheetStore } from './sheet'
import { useSurveyStore } from './survey'

const NOTHING: CastFacts = { spawners: {}, zones: {} }

/** What is known of the cast before anything runs: asked for while the stage is looked at, anew after each survey. */
export const useCastStore = defineStore('cast', () => {
  const levels = useLevelStore()
  const sheet = useSheetStore()
  const survey = useSurveyStore()
  const facts = shallowRef<CastFacts>(NOTHING)
  /** Which line of a brief is pointed at, so that its place on the map is. */
  const pointed = ref<string>()
  /** Posts that are suggested for a zone, until they are taken or left. */
  const suggested = shallowRef<{ readonly zoneId: string; readonly posts: readonly SuggestedPost[] }>()
  watch([() => sheet.chosen, () => sheet.stage, () => levels.level], () => {
    if (sheet.stage !== 'cast' || !levels.level?.zones[suggested.value?.zoneId ?? '']) suggested.value = undefined
    else if (sheet.chosen !== suggested.value?.zoneId) suggested.value = undefined
  })
  let asking = false
  let again = false

  async function ask(): Promise<void> {
    if (sheet.stage !== 'cast' || !levels.level || !survey.upToDate) return
    if (asking) {
      again = true
      return
    }
    asking = true
    try {
      const found = await survey.cast(levels.level.settings.seed)
      facts.value = found ?? NOTHING
    } finally {
      asking = false
      if (again) {
        again = false
        void ask()
      }
    }
  }
  watch([() => sheet.stage, () => survey.seen, () => levels.level], () => void ask(), { immediate: true })

  return { facts, pointed, suggested, ask }
})
