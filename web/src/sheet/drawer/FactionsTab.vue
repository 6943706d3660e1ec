<script setup lang="ts">
import { newStances, setThings, stanceOf, STANCES, type Stance } from '@tidytrail/core/level'
import { computed } from 'vue'
import { FactionDrop } from '../../kinds/faction/faction-drop'
import FactionFoot from '../../kinds/faction/FactionFoot.vue'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'

/** Each faction against each: crossed, level or joined. A click goes from one to the next. */
const levels = useLevelStore()
const sheet = useSheetStore()
const ids = computed(() => Object.keys(levels.doc.factions))
const nameOf = (id: string) => levels.doc.factions[id].name
const stance = (a: string, b: string) => stanceOf(levels.doc.factions, a, b)
/** Two strokes that cross, two that run level, two that are joined. */
const SIGNS: Record<Stance, string> = {
  hostile: 'M3 3l12 12M15 3L3 15',
  neutral: 'M3 6h12M3 12h12',
  friendly: 'M2 9a4 4 0 0 1 8 0 4 4 0 0 1-8 0zM8 9a4 4 0 0 1 8 0 4 4 0 0 1-8 0z',
}
function turn(a: string, b: string): void {
  const next = STANCES[(STANCES.indexOf(stance(a, b)) + 1) % 3]
  const lists = newStances(levels.doc.factions, a, b, next)
  levels.perform(setThings, {
    things: Object.entries(lists).map(([id, set]) => ({ in: 'factions' as const, id, set })),
    word: 'Change how factions stand:',
  })
}
</script>

<template>
  <div class="min-h-0 flex-1 overflow-auto px-3 pb-3">
    <p v-if="ids.length === 0" class="mb-2 text-faded">No faction yet: nobody is hostile to anybody.</p>
    <table v-else class="mb-2 border-collapse text-[13px]" aria-label="Each faction against each">
      <thead>
        <tr>
          <th scope="col" class="sr-only">faction</th>
          <th
            v-for="b in ids"
            :key="b"
            scope="col"
            class="max-w-[120px] truncate px-2 pb-1 font-normal"
            :title="nameOf(b)"
          >
            {{ nameOf(b) }}
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(a, i) in ids" :key="a" class="border-t border-rule">
          <th scope="row" class="pr-3 text-left font-normal">
            <button class="row max-w-[180px]" @click="sheet.choose([a])">
              <FactionDrop :row="{ id: a }" /><span class="truncate" :title="nameOf(a)">{{ nameOf(a) }}</span>
            </button>
          </th>
          <td v-for="(b, j) in ids" :key="b" class="px-2 py-0.5 text-center">
            <button
              v-if="i !== j"
              class="btn-quiet rounded-sm border border-rule px-1.5!"
              :aria-label="`${nameOf(a)} and ${nameOf(b)}: ${stance(a, b)}`"
              :title="`${stance(a, b)}; click for the next`"
              @click="turn(a, b)"
            >
              <svg
                width="18"
                height="18"
                fill="none"
                :class="stance(a, b) === 'hostile' ? 'text-alarm' : 'text-ink'"
                aria-hidden="true"
              >
                <path :d="SIGNS[stance(a, b)]" stroke="currentColor" stroke-width="1.7" />
              </svg>
            </button>
            <span v-else class="text-faded" aria-hidden="true">·</span>
          </td>
        </tr>
      </tbody>
    </table>
    <FactionFoot />
  </div>
</template>
