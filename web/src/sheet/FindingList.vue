<script setup lang="ts">
import { computed } from 'vue'
import { useSurveyStore } from '../stores/survey'
import { mend } from './mend'
import { requestPlace } from './zoom'

const props = defineProps<{ subjects: readonly string[] }>()
const survey = useSurveyStore()
const found = computed(() => {
  const list = props.subjects.flatMap((s) => survey.bySubject.get(s) ?? [])
  return [...new Map(list.map((f) => [f.number, f])).values()].sort((a, b) => a.number - b.number)
})
</script>

<template>
  <div
    v-for="{ finding, number } in found"
    :key="number"
    class="mt-2 border px-2.5 py-2"
    :class="finding.severity === 'blocker' ? 'border-alarm bg-alarm/8' : 'border-ochre bg-ochre/8'"
  >
    <p class="text-[13px]">
      <b :class="finding.severity === 'blocker' ? 'text-alarm' : 'text-ochre'"
        >{{ number }} · {{ finding.severity }}.</b
      >
      {{ finding.message }}
    </p>
    <div class="mt-1 flex flex-wrap items-center gap-2">
      <button v-if="finding.fix" class="btn text-left text-[13px]" @click="mend(finding)">
        {{ finding.fix.label }}
      </button>
      <button class="btn-quiet" @click="requestPlace(finding.at)">Show</button>
    </div>
  </div>
</template>
