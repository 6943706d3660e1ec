<script setup lang="ts">
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { ago } from '../../ui/figures'

const levels = useLevelStore()

/** More changes than this are not listed. */
const MOST_LISTED = 60
const log = computed(() => [...levels.steps.past].reverse().slice(0, MOST_LISTED))
</script>

<template>
  <ol class="min-h-0 flex-1 overflow-y-auto border-t border-rule px-3 py-1 text-[13px]">
    <li v-if="log.length === 0" class="text-faded">Nothing has been changed since this level was opened.</li>
    <li v-for="(e, i) in log" :key="e.at + e.label" class="flex gap-3 py-0.5">
      <span class="flex-1">{{ e.label }}</span><span class="text-faded">{{ ago(Date.now() - e.at) }}</span>
      <button v-if="i === 0" class="btn-quiet py-0!" @click="levels.undo()">Undo</button>
    </li>
  </ol>
</template>
