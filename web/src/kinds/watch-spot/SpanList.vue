<script setup lang="ts">
import type { Span, SpanFigures } from '@tidytrail/core/insight'
import { computed } from 'vue'
import { useRehearsalStore } from '../../stores/rehearsal'
import { useSheetStore } from '../../stores/sheet'
import { clock, seconds } from '../../ui/figures'

/** Windows in figures, and each of them one click from its moment. */
const props = defineProps<{ spans: readonly Span[]; figures: SpanFigures; share: string }>()
const rehearsal = useRehearsalStore()
const sheet = useSheetStore()
/** So many are listed; the drawer shows all. */
const MOST = 12
const listed = computed(() => props.spans.slice(0, MOST))
function go(at: number): void {
  rehearsal.playing = false
  rehearsal.seek(at)
}
</script>

<template>
  <dl class="grid grid-cols-3 gap-y-1 text-[13px]" data-testid="windows">
    <div>
      <dt class="label">windows</dt>
      <dd class="font-bold">{{ figures.count }}</dd>
    </div>
    <div>
      <dt class="label">longest</dt>
      <dd class="font-bold">{{ seconds(figures.longestS) }}</dd>
    </div>
    <div>
      <dt class="label">shortest</dt>
      <dd class="font-bold">{{ figures.count > 0 ? seconds(figures.shortestS) : '–' }}</dd>
    </div>
    <div class="col-span-3">
      <dt class="label">{{ share }}</dt>
      <dd class="font-bold">{{ (100 * figures.share).toFixed(1) }} %</dd>
    </div>
  </dl>
  <p class="mt-1 flex flex-wrap gap-1">
    <button
      v-for="s in listed"
      :key="s.from"
      class="btn px-1.5! text-[12px]!"
      :title="`Go to the window from ${s.from.toFixed(1)} s to ${s.to.toFixed(1)} s`"
      @click="go(s.from)"
    >
      {{ clock(s.from) }} · {{ seconds(s.to - s.from) }}
    </button>
    <button v-if="spans.length > MOST" class="btn-quiet text-[12px]!" @click="sheet.openDrawer('windows')">
      {{ spans.length - MOST }} more
    </button>
  </p>
</template>
