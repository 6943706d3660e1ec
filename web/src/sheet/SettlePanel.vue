<script setup lang="ts">
import { SETTLE_ON, settlePlan, type SettleOn } from '@tidytrail/core/ground'
import { nameOf, settleThings } from '@tidytrail/core/level'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { useLevelStore } from '../stores/level'
import { useSheetStore } from '../stores/sheet'
import { count, metres } from '../ui/figures'

/** What settling would do, before it is done: who moves by how much, with ghosts on the map. */
const levels = useLevelStore()
const sheet = useSheetStore()
const on = ref<SettleOn>('below')
const WORDS: Record<SettleOn, string> = {
  below: 'the nearest floor below',
  nearest: 'the nearest floor',
  lowest: 'the lowest floor',
  highest: 'the highest floor',
}
const moves = computed(() => (sheet.settling ? settlePlan(levels.doc, sheet.settling, on.value) : []))
const several = computed(() => moves.value.filter((m) => m.floors > 1).length)
const far = computed(() =>
  [...moves.value].sort((a, b) => Math.abs(b.to[2] - b.from[2]) - Math.abs(a.to[2] - a.from[2])),
)
watch(moves, (list) => (sheet.ghosts = list), { immediate: true })
onBeforeUnmount(() => (sheet.ghosts = []))

const named = (id: string) => {
  for (const route of Object.values(levels.doc.routes)) {
    const index = route.order.findIndex((s) => route.stops[s].waypointId === id)
    if (index >= 0) return `Stop ${index + 1} of ${route.name}`
  }
  return nameOf(levels.doc, id)
}
function apply() {
  levels.perform(settleThings, { heights: Object.fromEntries(moves.value.map((m) => [m.id, m.to[2]])) })
  sheet.settling = undefined
}
</script>

<template>
  <section class="panel w-[282px]" aria-label="Settle">
    <header class="px-3 pt-2.5">
      <p class="text-[13px] font-bold text-pine">Settle</p>
      <h2 class="text-[19px]">
        {{ moves.length === 0 ? 'All rest already' : `${count(moves.length, 'thing')} would move` }}
      </h2>
      <label class="mt-1 block">
        <span class="label">onto{{ several > 0 ? ` (${several} of them over several floors)` : '' }}</span>
        <select v-model="on" class="field" aria-label="Which floor">
          <option v-for="o in SETTLE_ON" :key="o" :value="o">{{ WORDS[o] }}</option>
        </select>
      </label>
    </header>
    <ul v-if="far.length > 0" class="mt-2 max-h-[260px] overflow-y-auto border-t border-rule text-[13px]">
      <li
        v-for="m in far.slice(0, 200)"
        :key="m.id"
        class="flex justify-between gap-2 border-b border-rule px-3 py-1 last:border-b-0"
      >
        <span class="truncate" :title="named(m.id)">{{ named(m.id) }}</span>
        <span class="shrink-0 font-bold"
          >{{ m.to[2] > m.from[2] ? '↑' : '↓' }} {{ metres(Math.abs(m.to[2] - m.from[2])) }}</span
        >
      </li>
      <li v-if="far.length > 200" class="px-3 py-1 text-faded">and {{ far.length - 200 }} more</li>
    </ul>
    <footer class="flex gap-2 border-t border-rule px-3 py-2">
      <button v-if="moves.length > 0" class="btn btn-main" @click="apply">
        Settle {{ count(moves.length, 'thing') }}
      </button>
      <button class="btn" @click="sheet.settling = undefined">{{ moves.length > 0 ? 'Leave them' : 'Close' }}</button>
    </footer>
  </section>
</template>
