<script setup lang="ts">
import { computed } from 'vue'
import { useSheetStore } from '../stores/sheet'
import type { Tool } from '../tools/tool'
import { why } from '../tools/why'

const props = defineProps<{ tools: readonly Tool[] }>()
const sheet = useSheetStore()
const shown = computed(() =>
  props.tools.filter((t) => t.stages.includes(sheet.stage) && (!t.asked || sheet.toolId === t.id)),
)
const options = computed(() => shown.value.find((t) => t.id === sheet.toolId)?.options)
const hint = computed(
  () => sheet.hint || (sheet.toolId === 'choose' ? '' : shown.value.find((t) => t.id === sheet.toolId)?.hint),
)
</script>

<template>
  <div>
    <div class="panel inline-flex" role="toolbar" aria-label="Tools">
      <button
        v-for="(t, i) in shown"
        :key="t.id"
        class="flex h-[30px] items-center gap-1.5 px-2 whitespace-nowrap"
        :class="[
          t.id === sheet.toolId ? 'bg-ink font-bold text-sheet' : 'hover:bg-tint',
          i > 0 ? 'border-l border-ink' : '',
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
      class="panel mt-1.5 flex w-fit max-w-[640px] flex-wrap items-center gap-x-3 gap-y-1.5 px-2.5 py-1.5 text-[13px]"
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
