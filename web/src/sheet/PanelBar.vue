<script setup lang="ts">
import { computed } from 'vue'
import { nameOf, thingOf } from '@tidytrail/core/level'
import { useLevelStore } from '../stores/level'
import { useSheetStore, STAGE_NAMES } from '../stores/sheet'
import { useSurveyStore } from '../stores/survey'

/** In a small window: what can be brought up over the map, one at a time. */
const levels = useLevelStore()
const sheet = useSheetStore()
const survey = useSurveyStore()

const chosen = computed(() => {
  const { selected } = sheet
  if (selected.length > 1) return `${selected.length} chosen`
  if (!selected[0]) return 'To do'
  return thingOf(levels.doc, selected[0]) ? nameOf(levels.doc, selected[0]) : 'chosen'
})
const panels = computed(() => [
  { id: 'register' as const, name: `List: ${STAGE_NAMES[sheet.stage]}` },
  { id: 'card' as const, name: `Card: ${chosen.value}` },
  { id: 'drawer' as const, name: sheet.stage === 'rehearse' ? 'Run' : `Findings ${survey.findings.length}` },
])
</script>

<template>
  <div class="panel flex" role="toolbar" aria-label="Panels">
    <button
      v-for="(p, k) in panels"
      :key="p.id"
      class="h-[30px] max-w-[150px] truncate px-2.5 text-[13px]"
      :class="[
        sheet.front === p.id ? 'bg-ink font-bold text-sheet' : 'hover:bg-tint',
        k > 0 ? 'border-l border-ink' : '',
      ]"
      :aria-pressed="sheet.front === p.id"
      @click="sheet.front = sheet.front === p.id ? undefined : p.id"
    >
      {{ p.name }}
    </button>
  </div>
</template>
