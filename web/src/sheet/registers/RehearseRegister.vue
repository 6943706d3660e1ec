<script setup lang="ts">
import { computed } from 'vue'
import type { RegisterRow } from '../../kinds/register'
import RegisterPanel from './RegisterPanel.vue'
import { useLevelStore } from '../../stores/level'
import { useRehearsalStore } from '../../stores/rehearsal'
import { useSurveyStore } from '../../stores/survey'
import { VERDICT_TONES, VERDICT_WORDS, stateWords } from '../verdict-words'

const levels = useLevelStore()
const rehearsal = useRehearsalStore()
const survey = useSurveyStore()

const rows = computed<RegisterRow[]>(() => {
  void Math.floor(rehearsal.t * 5)
  return rehearsal.agents.map((m, n) => {
    const verdict = rehearsal.verdicts[n]
    return {
      id: m.id,
      name: m.name,
      detail: stateWords(levels.doc, m, rehearsal.moment(n)),
      size: n,
      mark: verdict ? { text: VERDICT_WORDS[verdict.verdict], tone: VERDICT_TONES[verdict.verdict] } : undefined,
    }
  })
})
const spawners = computed(() => Object.keys(levels.doc.spawners).length)
const otherSeed = () => rehearsal.begin((rehearsal.seed % 0x7fffffff) + 1)
</script>

<template>
  <RegisterPanel
    title="On the ground"
    :figure="rehearsal.begun ? `${rehearsal.agents.length} · seed ${rehearsal.seed}` : ''"
    :rows="rows"
    find="Find an agent"
    fixed
    :empty="
      rehearsal.running
        ? 'Working out the reach first …'
        : spawners === 0
          ? 'There is nobody to rehearse with. Place a spawner in Cast first.'
          : 'Nothing is running. Rehearse, and watch everyone walk.'
    "
  >
    <template #symbol>
      <svg width="22" height="14" viewBox="0 0 22 14" aria-hidden="true" class="shrink-0">
        <path d="M21 7c-6-4-8-6-13-6a6 6 0 0 0 0 12c5 0 7-2 13-6z" fill="var(--rust)" />
      </svg>
    </template>
    <template #foot>
      <button
        class="btn btn-main"
        :disabled="spawners === 0"
        @click="rehearsal.begin(rehearsal.begun ? rehearsal.seed : levels.doc.settings.seed)"
      >
        {{ rehearsal.begun ? 'Again, same seed' : 'Rehearse' }}
      </button>
      <button v-if="rehearsal.begun" class="btn" @click="otherSeed">Other seed</button>
      <p v-if="rehearsal.stale" class="w-full text-[12.5px] text-ochre">
        The level has changed since; run it again to see the effect.
      </p>
      <p v-else-if="!survey.upToDate && rehearsal.begun" class="w-full text-[12.5px] text-faded">
        The reach is being worked out.
      </p>
    </template>
  </RegisterPanel>
</template>
