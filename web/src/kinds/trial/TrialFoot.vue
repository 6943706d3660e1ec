<script setup lang="ts">
import { trialWords } from '@tidytrail/core/insight'
import { addThing, addThings, trialSchema, type Trial } from '@tidytrail/core/level'
import { ref } from 'vue'
import { useInsightStore } from '../../stores/insight'
import { useLevelStore } from '../../stores/level'
import { randomId } from '../../stores/random-id'
import { useRehearsalStore } from '../../stores/rehearsal'
import { useSheetStore } from '../../stores/sheet'
import { count } from '../../ui/figures'

const levels = useLevelStore()
const sheet = useSheetStore()
const insight = useInsightStore()
const rehearsal = useRehearsalStore()
const offered = ref<readonly Trial[]>()
const looking = ref(false)

function make(): void {
  const id = randomId('trials')
  levels.perform(addThing, { in: 'trials', id, thing: trialSchema.parse({}) })
  sheet.choose([id])
}
async function suggest(): Promise<void> {
  looking.value = true
  offered.value = await insight.suggest()
  looking.value = false
}
function take(list: readonly Trial[]): void {
  const things = list.map((thing) => ({ in: 'trials' as const, id: randomId('trials'), thing }))
  levels.perform(addThings, { things, label: `Add ${count(things.length, 'suggested trial')}` })
  const left = (offered.value ?? []).filter((t) => !list.includes(t))
  offered.value = left.length > 0 ? left : undefined
}
</script>

<template>
  <button class="btn btn-main" @click="make">Make a trial</button>
  <button
    class="btn"
    :disabled="!rehearsal.begun || rehearsal.running || looking"
    :title="rehearsal.begun ? 'Statements that held in what was seen' : 'Rehearse first'"
    @click="suggest"
  >
    {{ looking ? 'Looking …' : 'Suggest some' }}
  </button>
  <div v-if="offered" class="w-full text-[12.5px]" data-testid="suggested-trials">
    <p v-if="offered.length === 0" class="text-faded">Everything that could be suggested is there already.</p>
    <template v-else>
      <ul class="max-h-32 overflow-y-auto">
        <li v-for="t in offered" :key="JSON.stringify(t)" class="mt-1 flex items-start gap-1.5">
          <button class="btn shrink-0 px-1.5! text-[12px]!" @click="take([t])">Take</button>
          <span>{{ trialWords(levels.doc, t) }}</span>
        </li>
      </ul>
      <p class="mt-1 flex gap-1.5">
        <button class="btn" @click="take(offered)">Take all {{ offered.length }}</button>
        <button class="btn" @click="offered = undefined">None</button>
      </p>
    </template>
  </div>
</template>
