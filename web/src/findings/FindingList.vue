<script setup lang="ts">
import type { Finding } from '@tidytrail/core/checks'
import { computed, nextTick, ref } from 'vue'
import { useSurveyStore } from '../stores/survey'
import { waiveFinding } from './mend'
import WaysOut from './WaysOut.vue'
import { requestPlace } from '../map/zoom-wish'

const props = defineProps<{ subjects: readonly string[] }>()
const survey = useSurveyStore()
const found = computed(() => {
  const list = props.subjects.flatMap((s) => survey.bySubject.get(s) ?? [])
  return [...new Map(list.map((f) => [f.number, f])).values()].sort((a, b) => a.number - b.number)
})
const TONES = { blocker: 'border-alarm bg-alarm/8', warning: 'border-ochre bg-ochre/8', note: 'border-lake bg-lake/8' }
const INK = { blocker: 'text-alarm', warning: 'text-ochre', note: 'text-lake' }
const waiving = ref<number>()
const reason = ref('')
function ask(number: number) {
  waiving.value = number
  reason.value = ''
  void nextTick(() => document.querySelector<HTMLInputElement>('[data-reason]')?.focus())
}
function accept(finding: Finding) {
  waiveFinding(finding, reason.value.trim())
  waiving.value = undefined
}
</script>

<template>
  <div
    v-for="{ finding, number } in found"
    :key="number"
    class="mt-2 border px-2.5 py-2"
    :class="TONES[finding.severity]"
  >
    <p class="text-[13px]">
      <b :class="INK[finding.severity]">{{ number }} · {{ finding.severity }}.</b>
      {{ finding.message }}
    </p>
    <div class="mt-1 flex flex-wrap items-center gap-2">
      <WaysOut :finding />
      <button class="btn-quiet" @click="requestPlace(finding.at)">Show</button>
      <button class="btn-quiet" @click="ask(number)">Waive …</button>
      <form v-if="waiving === number" class="flex w-full gap-1.5" @submit.prevent="accept(finding)">
        <input
          v-model="reason"
          data-reason
          class="field"
          placeholder="it is meant, because …"
          aria-label="Reason"
          maxlength="400"
        />
        <button class="btn" :disabled="!reason.trim()">Waive</button>
      </form>
    </div>
  </div>
</template>
