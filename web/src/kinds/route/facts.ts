import { shallowRef, watch, type Ref } from 'vue'
import { useSurveyStore } from '../../stores/survey'
import type { RouteFacts } from '../../workers/surveyor.protocol'

/** The side view and figures of a route, asked for anew whenever the level has been worked through. */
export function useRouteFacts(routeId: () => string | undefined): Readonly<Ref<RouteFacts | undefined>> {
  const survey = useSurveyStore()
  const facts = shallowRef<RouteFacts>()
  let asked = 0
  watch(
    [routeId, () => survey.seen],
    async ([id], before) => {
      const mine = ++asked
      if (id !== before?.[0]) facts.value = undefined
      const answer = id ? await survey.facts(id) : undefined
      if (mine === asked) facts.value = answer
    },
    { immediate: true },
  )
  return facts
}
