<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { computed, watch } from 'vue'
import { useSheetStore } from '../stores/sheet'
import type { Tool } from '../tools/tool'
import { why } from '../tools/why'

const props = defineProps<{ tools: readonly Tool[] }>()
const sheet = useSheetStore()
const shown = computed(() =>
  props.tools.filter((t) => t.stages.includes(sheet.stage) && (!t.asked || sheet.toolId === t.id)),
)
const options = computed(() => shown.value.find((t) => t.id === sheet.toolId)?.options)
/** A hint teaches and then goes: it is shown the first times a tool is taken in hand, and stays as its title. */
const TEACHES = 4
const taken = useLocalStorage<Record<string, number>>('tidytrail.hints', {})
watch(
  () => sheet.toolId,
  (id) => {
    taken.value = { ...taken.value, [id]: (taken.value[id] ?? 0) + 1 }
  },
)
const hint = computed(() => {
  if (sheet.hint || sheet.toolId === 'choose') return sheet.hint
  return (taken.value[sheet.toolId] ?? 0) > TEACHES ? '' : shown.value.find((t) => t.id === sheet.toolId)?.hint
})
</script>

<template>
  <div>
    <div class="panel pointer-events-auto inline-flex flex-wrap" role="toolbar" aria-label="Tools">
      <button
        v-for="(t, i) in shown"
        :key="t.id"
        class="flex h-[30px] items-center gap-1.5 px-2 whitespace-nowrap"
        :class="[
          t.id === sheet.toolId ? 'bg-ink font-bold text-sheet' : 'hover:bg-tint',
          // A line between two, also where the strip is broken into rows.
          i > 0 ? '-ml-px border-l border-ink' : '',
        ]"
        :aria-pressed="t.id === sheet.toolId"
        :title="`${t.hint} (${t.key.toUpperCase()})`"
        @click="sheet.toolId = t.id"
      >
        {{ t.label }}
        <kbd class="font-text text-[11px]" :class="t.id === sheet.toolId ? 'opacity-70' : 'text-faded'">{{
          t.key.toUpperCase()
        }}</kbd>
      </button>
    </div>
    <div
      v-if="options"
      class="panel pointer-events-auto mt-1.5 flex w-fit max-w-[640px] flex-wrap items-center gap-x-3 gap-y-1.5 px-2.5 py-1.5 text-[13px]"
    >
      <component :is="options" />
    </div>
    <p
      v-if="why.text && sheet.toolId === 'why'"
      class="panel mt-1.5 w-fit border-rule! px-2 py-1 text-[13px] font-bold"
      data-testid="why"
      aria-live="polite"
    >
      {{ why.text }}
    </p>
    <p v-else-if="hint" class="panel mt-1.5 w-fit max-w-[440px] border-rule! px-2 py-1 text-[13px]" aria-live="polite">
      {{ hint }}
    </p>
  </div>
</template>
