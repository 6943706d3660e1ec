<script setup lang="ts">
import type { Clash } from '@tidytrail/core/level'
import { computed } from 'vue'
import { placeLine, valueWords } from '../../kinds/place-words'
import { useLevelStore } from '../../stores/level'

const props = defineProps<{ clashes: readonly Clash[]; mine: string; theirs: string }>()
const levels = useLevelStore()

const MOST = 6
const rows = computed(() =>
  props.clashes.slice(0, MOST).map((c) => ({
    place: placeLine(levels.doc, c.path),
    mine: valueWords(levels.doc, c.path, c.mine),
    theirs: valueWords(levels.doc, c.path, c.theirs),
  })),
)
</script>

<template>
  <div v-if="rows.length > 0" class="mt-3 max-h-[260px] overflow-y-auto border-y border-rule">
    <table class="w-full text-[14px]">
      <thead>
        <tr class="label text-left">
          <th class="py-1 pr-3 font-normal">What</th>
          <th class="py-1 pr-3 font-normal">{{ mine }}</th>
          <th class="py-1 font-normal">{{ theirs }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(row, i) in rows" :key="i" class="border-t border-rule align-top">
          <td class="py-1 pr-3">{{ row.place }}</td>
          <td class="py-1 pr-3 font-bold tabular-nums">{{ row.mine }}</td>
          <td class="py-1 font-bold tabular-nums">{{ row.theirs }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="clashes.length > MOST" class="label border-t border-rule py-1">and {{ clashes.length - MOST }} more</p>
  </div>
</template>
