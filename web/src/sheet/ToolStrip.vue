<script setup lang="ts">
import { computed } from 'vue'
import { useSheetStore } from '../stores/sheet'
import type { Tool } from '../tools/tool'
import { why } from '../tools/why'
import ToolOptions from './ToolOptions.vue'

const props = defineProps<{ tools: readonly Tool[] }>()
const sheet = useSheetStore()
const shown = computed(() =>
  props.tools.filter((t) => t.stages.includes(sheet.stage) && (t.id !== 'pin' || sheet.toolId === 'pin')),
)
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
    <ToolOptions />
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
