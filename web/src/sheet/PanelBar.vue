<script setup lang="ts">
import { computed } from 'vue'
import { thingOf } from '@tidytrail/core/level'
import { useLevelStore } from '../stores/level'
import { useSheetStore, STAGE_NAMES } from '../stores/sheet'
import { useSurveyStore } from '../stores/survey'
import type { Front } from './front'

/** In a small window: what can be brought up over the map, one at a time. */
const front = defineModel<Front | undefined>()
const levels = useLevelStore()
const sheet = useSheetStore()
const survey = useSurveyStore()

const chosen = computed(() => {
  const { selected } = sheet
  if (selected.length > 1) return `${selected.length} chosen`
  const thing = selected[0] && (thingOf(levels.doc, selected[0])?.thing as { name?: string } | undefined)
  return (thing && thing.name) || (selected[0] ? 'chosen' : 'To do')
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
      :class="[front === p.id ? 'bg-ink font-bold text-sheet' : 'hover:bg-tint', k > 0 ? 'border-l border-ink' : '']"
      :aria-pressed="front === p.id"
      @click="front = front === p.id ? undefined : p.id"
    >
      {{ p.name }}
    </button>
  </div>
</template>
