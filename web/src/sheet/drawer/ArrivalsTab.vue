<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { spawnWords } from '../../kinds/spawner/spawn-words'
import { useCastStore } from '../../stores/cast'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import { clock } from '../../ui/figures'
import { compareNames } from '../../ui/names'

/** A time line of the rehearsal to be: a tick for each agent that comes, had it always room. */
const levels = useLevelStore()
const sheet = useSheetStore()
const cast = useCastStore()
const frame = ref<HTMLElement>()
const { width } = useElementSize(frame)
/** Room for the names, pixels. */
const NAMES_PX = 176
/** Lines drawn at most. */
const MOST = 200

const seconds = computed(() => levels.doc.settings.rehearseS)
const rows = computed(() =>
  Object.entries(cast.facts.spawners)
    .filter(([id]) => levels.doc.spawners[id])
    .map(([id, facts]) => ({ id, ...facts, name: levels.doc.spawners[id].name }))
    .sort((a, b) => Number(b.fromStart) - Number(a.fromStart) || compareNames(a.name, b.name))
    .slice(0, MOST),
)
const room = computed(() => Math.max(100, width.value - NAMES_PX - 16))
const x = (s: number) => (s / seconds.value) * room.value
const marks = computed(() => {
  const every = [5, 10, 15, 30, 60, 120, 300, 600, 1800].find((e) => x(e) >= 56) ?? 3600
  return Array.from({ length: Math.floor(seconds.value / every) + 1 }, (_, k) => k * every)
})
</script>

<template>
  <div ref="frame" class="min-h-0 flex-1 overflow-y-auto px-3 pb-2">
    <p v-if="rows.length === 0" class="text-faded">Nobody is to come yet. Place a spawner with S.</p>
    <template v-else>
      <div class="sticky top-0 flex bg-sheet" aria-hidden="true">
        <span :style="{ width: `${NAMES_PX}px` }" />
        <svg :width="room" height="16" class="overflow-visible">
          <text v-for="m in marks" :key="m" :x="x(m)" y="12" class="fill-faded text-[11px]" text-anchor="middle">
            {{ clock(m) }}
          </text>
        </svg>
      </div>
      <button
        v-for="row in rows"
        :key="row.id"
        class="flex w-full items-center border-t border-rule text-left hover:bg-tint"
        :class="sheet.selected.includes(row.id) ? 'bg-tint font-bold' : ''"
        :title="spawnWords(levels.doc, levels.doc.spawners[row.id])"
        @click="sheet.choose([row.id])"
      >
        <span class="shrink-0 truncate pr-2 text-[13px]" :style="{ width: `${NAMES_PX}px` }">{{ row.name }}</span>
        <svg v-if="row.fromStart" :width="room" height="20" aria-hidden="true">
          <path d="M0 10h9999" class="stroke-rule" />
          <path
            v-for="(s, k) in row.arrivals.filter((a) => a <= seconds)"
            :key="k"
            :d="`M${x(s)} 4v12`"
            class="stroke-pine"
            stroke-width="2"
          />
        </svg>
        <span v-else class="truncate text-[12.5px] text-faded">{{
          spawnWords(levels.doc, levels.doc.spawners[row.id])
        }}</span>
        <span class="sr-only">{{ row.arrivals.length }} arrivals</span>
      </button>
    </template>
  </div>
</template>
