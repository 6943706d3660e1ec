import type { StrayedLeg } from '@tidytrail/core/rehearsal'
import { defineStore } from 'pinia'
import { reactive, shallowRef, watch } from 'vue'
import type { HeatMap } from '../workers/rehearsal.protocol'
import { useInsightStore } from './insight'
import { useRehearsalStore } from './rehearsal'
import { useSurveyStore } from './survey'

/** What can be watched beside the agents themselves: a name for the button, and what it shows. */
export const WATCHES = {
  senses: { label: 'All senses', title: 'What everybody sees and how far they hear; else only the chosen one’s' },
  wants: { label: 'Wants', title: 'Where everybody wants to go, as a short line; and what holds the chosen one back' },
  heat: { label: 'Heat', title: 'Where everybody has been so far, darker the longer' },
  straying: { label: 'Straying', title: 'How far from their legs agents have strayed so far' },
  earlier: { label: 'Run before', title: 'Where they were at this moment in the run before, dotted' },
} as const
export type Watch = keyof typeof WATCHES

/** What is gathered from the run is gathered anew so often while it is watched, ms. */
const GATHERS_MS = 700

/** What somebody who watches a rehearsal has asked to see. */
export const useWatchingStore = defineStore('watching', () => {
  const rehearsal = useRehearsalStore()
  const survey = useSurveyStore()
  const insight = useInsightStore()
  const on = reactive<Record<Watch, boolean>>({
    senses: false,
    wants: false,
    heat: false,
    straying: false,
    earlier: true,
  })
  const heat = shallowRef<HeatMap>()
  const strayed = shallowRef<readonly StrayedLeg[]>([])
  let gathering = false
  let gathered = -Infinity
  let again: ReturnType<typeof setTimeout> | undefined

  /** Asks for what is watched, up to the moment looked at; one question at a time. */
  async function gather(): Promise<void> {
    clearTimeout(again)
    const wanted = { heat: rehearsal.begun && on.heat, straying: rehearsal.begun && on.straying }
    if (!wanted.heat) heat.value = undefined
    if (!wanted.straying) strayed.value = []
    if (!wanted.heat && !wanted.straying) return
    const wait = gathered + GATHERS_MS - performance.now()
    if (gathering || wait > 0) {
      again = setTimeout(() => void gather(), Math.max(20, wait))
      return
    }
    gathering = true
    gathered = performance.now()
    const { t } = rehearsal
    // What was kept is not worked out here: it is told from its recording.
    const of = rehearsal.kept ? insight : survey
    try {
      const found = wanted.heat ? await of.heat(t) : undefined
      const legs = wanted.straying ? await of.straying(t) : []
      // What was put out in the meantime stays out.
      if (rehearsal.begun && on.heat) heat.value = found
      if (rehearsal.begun && on.straying) strayed.value = legs ?? []
    } finally {
      gathering = false
    }
  }

  watch([() => rehearsal.t, () => rehearsal.begun, () => on.heat, () => on.straying], () => void gather())

  return { on, heat, strayed }
})
