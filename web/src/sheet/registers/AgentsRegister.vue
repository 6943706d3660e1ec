<script setup lang="ts">
import { changeSettings } from '@tidytrail/core/level'
import { computed, ref } from 'vue'
import type { RegisterRow } from '../../kinds/register'
import { FactionDrop } from '../../kinds/faction/faction-drop'
import RegisterPanel from './RegisterPanel.vue'
import { useLevelStore } from '../../stores/level'
import { useRehearsalStore } from '../../stores/rehearsal'
import { useSurveyStore } from '../../stores/survey'
import { seconds } from '../../ui/figures'
import NumberField from '../../ui/NumberField.vue'
import { VERDICT_TONES, VERDICT_WORDS, stateWords } from '../verdict-words'

const levels = useLevelStore()
const rehearsal = useRehearsalStore()
const survey = useSurveyStore()

/** What the rows tell of: five moments a second are as many as one can read. */
const moment = computed(() => Math.round(rehearsal.t * 5) / 5)
const rows = computed<RegisterRow[]>(() => {
  const t = moment.value
  const here = rehearsal.agents.filter((m, n) => m.appearedS <= t + 0.1 && rehearsal.placeOf(m.id) === n)
  const marks = here.map((m) => {
    const verdict = rehearsal.verdictOf.get(m.id)
    return verdict && { text: VERDICT_WORDS[verdict.verdict], tone: VERDICT_TONES[verdict.verdict] }
  })
  const order = here.map((_, k) => k)
  const rank = (k: number) => RANK[marks[k]?.tone ?? 'plain']
  if (worstFirst.value) order.sort((a, b) => rank(a) - rank(b) || a - b)
  const rows = order.map((k, size): RegisterRow => ({
    id: here[k].id,
    name: here[k].name,
    // Only of the rows that are on the screen.
    get detail() {
      return stateWords(levels.doc, rehearsal.recording.moment(here[k].key, t))
    },
    size,
    mark: marks[k],
  }))
  const seen = new Set(here.map((m) => m.id))
  const later = rehearsal.verdicts
    .filter((v) => v.key === 0 && !seen.has(v.agent))
    .map((v, n) => ({ id: v.agent, name: v.name, detail: v.reasons[0] ?? '', size: here.length + n }))
  return [...rows, ...later]
})
const factions = computed(() => new Map(rehearsal.agents.map((m) => [m.id, m.factionId ?? ''])))
const factionOf = (id: string) => factions.value.get(id) ?? ''
/** How long it is to last, its luck, and how many take part who are no agents. */
const SETTINGS = [
  { key: 'rehearseS', label: 'lasts, s', step: 1, digits: 0, min: 1, max: 7200 },
  { key: 'seed', label: 'seed', step: 0.05, digits: 0, min: 0, max: 0x7fffffff },
  { key: 'players', label: 'players', step: 0.05, digits: 0, min: 0, max: 1000 },
] as const
const worstFirst = ref(false)
const RANK = { bad: 0, fair: 1, good: 2, plain: 3 } as const
const spawners = computed(() => Object.keys(levels.doc.spawners).length)
const otherSeed = () => rehearsal.begin((rehearsal.seed % 0x7fffffff) + 1)
</script>

<template>
  <RegisterPanel
    title="On the ground"
    :figure="rehearsal.begun ? `${rehearsal.count} · seed ${rehearsal.seed}` : ''"
    :rows="rows"
    find="Find an agent"
    fixed
    :empty="
      rehearsal.running
        ? 'They are on their way …'
        : spawners === 0
          ? 'There is nobody to rehearse with. Place a spawner in Cast first.'
          : 'Nothing is running. Rehearse, and watch everyone walk.'
    "
  >
    <template #top><slot name="top" /></template>
    <template #symbol="{ row }"><FactionDrop :row="{ id: factionOf(row.id) }" /></template>
    <template #foot>
      <div v-if="!rehearsal.begun" class="grid w-full grid-cols-[5fr_4fr_4fr] gap-2">
        <NumberField
          v-for="{ key, ...f } in SETTINGS"
          :key="key"
          v-bind="f"
          :value="levels.doc.settings[key]"
          @change="(v) => levels.perform(changeSettings, { set: { [key]: Math.round(v) } })"
          @done="levels.release()"
        />
      </div>
      <button
        class="btn btn-main"
        :disabled="spawners === 0"
        title="R"
        @click="rehearsal.begin(rehearsal.begun ? rehearsal.seed : levels.doc.settings.seed)"
      >
        {{ rehearsal.begun ? 'Again, same luck' : 'Rehearse' }}
      </button>
      <button v-if="rehearsal.running && rehearsal.price" class="btn" @click="rehearsal.endHere()">End here</button>
      <p v-if="rehearsal.price && !rehearsal.begun" class="w-full text-[12.5px] text-ochre" data-testid="price">
        {{ rehearsal.price.agents.toLocaleString('en') }} agents take about {{ seconds(rehearsal.price.workS) }} to work
        out and {{ Math.round(rehearsal.price.megabytes).toLocaleString('en') }} MB. It can be ended at any time.
      </p>
      <button v-if="rehearsal.begun" class="btn" @click="otherSeed">Other luck</button>
      <label v-if="rehearsal.begun" class="flex items-center gap-1.5 text-[12.5px]">
        <input v-model="worstFirst" type="checkbox" class="accent-pine" />worst first
      </label>
      <p v-if="rehearsal.changes > 0" class="w-full text-[12.5px] text-ochre">
        The level was changed {{ rehearsal.changes === 1 ? 'once' : `${rehearsal.changes} times` }} on the way. Again
        runs all of it with the level as it now is.
      </p>
      <div v-if="rehearsal.earlier && !rehearsal.running" class="w-full text-[12.5px]" data-testid="differences">
        <template v-if="rehearsal.differences.length === 0">Nothing came out differently this time.</template>
        <template v-else>
          Came out differently:
          <ul class="max-h-24 list-disc overflow-auto pl-4">
            <li v-for="d in rehearsal.differences" :key="d">{{ d }}</li>
          </ul>
        </template>
      </div>
      <p v-if="!survey.upToDate && rehearsal.begun" class="w-full text-[12.5px] text-faded">
        The reach is being worked out.
      </p>
    </template>
  </RegisterPanel>
</template>
