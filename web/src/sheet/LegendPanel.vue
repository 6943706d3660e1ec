<script setup lang="ts">
import { changeSettings } from '@tidytrail/core/level'
import { useLevelStore } from '../stores/level'
import { LAYERS, useSheetStore, type LayerId } from '../stores/sheet'

const sheet = useSheetStore()
const levels = useLevelStore()
const GRIDS = [0.1, 0.25, 0.5, 1, 2, 5, 10]
const WORDS: Record<LayerId, string> = {
  underlays: 'Underlays',
  contours: 'Contours, every fifth labelled',
  grid: 'Grid',
  covers: 'Covers, each kind its own texture',
  solids: 'Solids and meshes',
  areas: 'Reach areas',
  reach: 'Reach, one stipple an island',
  passages: 'Passages, a bow from end to end',
  routes: 'Routes, stops and links',
  spawners: 'Spawners',
  findings: 'Findings',
  agents: 'Agents, with a tail',
}

/** How each kind of route and what is said of stops is drawn. */
const KEY: { name: string; d: string; ink: string; width?: number; dash?: string }[] = [
  { name: 'patrol', d: 'M0 8h34', ink: 'rust', width: 2, dash: '8 4' },
  { name: 'lane', d: 'M0 4h34M0 12h34M10 4l5 4-5 4M22 4l5 4-5 4', ink: 'lake', width: 1.4 },
  { name: 'circuit', d: 'M0 8h34M12 2v12M26 2v12', ink: 'plum', width: 1.6 },
  { name: 'mission', d: 'M0 8h34', ink: 'ochre', width: 3, dash: '0.5 6' },
  { name: 'network', d: 'M0 8h12M22 8h12M17 3l5 5-5 5-5-5z', ink: 'pine', width: 1.4 },
  { name: 'one-way link', d: 'M0 8h34M12 2l10 6', ink: 'pine', width: 1.4 },
  { name: 'start', d: 'M6 3v10M10 3v10M27 8a6 6 0 1 1-12 0 6 6 0 0 1 12 0', ink: 'rust', width: 2 },
  { name: 'pause', d: 'M22 8a5 5 0 1 1-10 0 5 5 0 0 1 10 0M17 -1a9 9 0 0 1 9 9', ink: 'rust', width: 1.8 },
]
</script>

<template>
  <section class="panel w-[262px] p-3" aria-label="Legend">
    <div class="mb-1 flex items-baseline justify-between">
      <h2 class="text-[15px]">Legend</h2>
      <span class="label">show or hide</span>
    </div>
    <label v-for="id in LAYERS" :key="id" class="flex cursor-pointer items-center gap-2 py-[3px] text-[13px]">
      <input v-model="sheet.shown[id]" type="checkbox" class="accent-pine" />
      <svg width="34" height="18" viewBox="0 0 34 18" aria-hidden="true" fill="none" class="shrink-0">
        <g v-if="id === 'contours'" stroke="var(--contour)"><path d="M0 5q9-5 17 0t17 0M0 14q9-5 17 0t17 0" /></g>
        <g v-else-if="id === 'underlays'" stroke="var(--faded)">
          <path d="M4 2h26v14H4zM4 13l8-6 6 4 5-3 7 5" />
        </g>
        <g v-else-if="id === 'covers'" stroke="var(--ink)">
          <path d="M2 4h30v10H2z" stroke-dasharray="2 2" />
          <path d="M5 7h6M14 7h6M23 7h6M9 11h6M18 11h6" stroke="var(--faded)" />
        </g>
        <g v-else-if="id === 'areas'" stroke="var(--pine)" stroke-width="1.6">
          <path d="M3 4l13-2 15 4-3 10H6z" stroke-dasharray="5 2 1 2" />
        </g>
        <g v-else-if="id === 'passages'" stroke="var(--plum)" stroke-width="1.8">
          <path d="M3 14Q17 -6 31 14" />
          <circle cx="3" cy="14" r="2" fill="var(--sheet)" />
          <circle cx="31" cy="14" r="2" fill="var(--sheet)" />
        </g>
        <g v-else-if="id === 'grid'" stroke="var(--faded)"><path d="M8 9h6M11 6v6M22 9h6M25 6v6" /></g>
        <g v-else-if="id === 'solids'" stroke="var(--ink)">
          <rect x="3" y="2" width="28" height="14" stroke-width="1.5" />
          <path d="M3 10l8-8M3 16L17 2M11 16L25 2M18 16L31 3M25 16l6-6" stroke-width=".7" />
        </g>
        <g v-else-if="id === 'reach'" fill="var(--pine)">
          <circle v-for="k in 12" :key="k" :cx="4 + ((k - 1) % 6) * 5 + (k > 6 ? 2.5 : 0)" :cy="k > 6 ? 12 : 6" r="1" />
          <path d="M1 1h32v16H1z" fill="none" stroke="var(--pine)" />
        </g>
        <g v-else-if="id === 'routes'" stroke="var(--rust)" stroke-width="2">
          <path d="M0 9h34" stroke-dasharray="7 4" />
          <circle cx="17" cy="9" r="5.5" fill="var(--sheet)" />
        </g>
        <g v-else-if="id === 'spawners'" stroke="var(--ink)" stroke-width="1.5">
          <path d="M25 2H9v14h16" />
          <path d="M24 9c-3-2-4-3-7-3a3 3 0 0 0 0 6c3 0 4-1 7-3z" fill="var(--pine)" stroke="none" />
        </g>
        <g v-else-if="id === 'findings'">
          <path d="M5 3h5l3 3v5l-3 3H5l-3-3V6z" fill="var(--alarm)" />
          <path d="M24 3l7 12H17z" stroke="var(--ochre)" stroke-width="1.8" />
        </g>
        <g v-else stroke="var(--rust)">
          <path d="M2 9h12" opacity=".6" stroke-width="1.5" />
          <path d="M30 9c-5-3-6-5-10-5a5 5 0 0 0 0 10c4 0 5-2 10-5z" fill="var(--rust)" stroke="none" />
        </g>
      </svg>
      {{ WORDS[id] }}
    </label>
    <div class="mt-1.5 grid grid-cols-2 gap-x-2 border-t border-rule pt-1.5 text-[12.5px]">
      <span v-for="k in KEY" :key="k.name" class="row gap-1.5! py-px">
        <svg width="34" height="16" viewBox="0 0 34 16" fill="none" class="shrink-0" aria-hidden="true">
          <path
            :d="k.d"
            :stroke="`var(--${k.ink})`"
            :stroke-width="k.width"
            :stroke-dasharray="k.dash"
            stroke-linecap="round"
          />
        </svg>
        {{ k.name }}
      </span>
    </div>
    <div class="row mt-1.5 border-t border-rule pt-2 text-[13px]">
      <label class="row gap-1.5!">
        <input
          type="checkbox"
          class="accent-pine"
          :checked="levels.doc.settings.snap"
          @change="levels.perform(changeSettings, { set: { snap: !levels.doc.settings.snap } })"
        />
        snap to every
      </label>
      <select
        class="field w-auto! py-0!"
        aria-label="Grid spacing"
        :value="levels.doc.settings.gridM"
        @change="levels.perform(changeSettings, { set: { gridM: Number(($event.target as HTMLSelectElement).value) } })"
      >
        <option v-for="m in GRIDS" :key="m" :value="m">{{ m }} m</option>
      </select>
    </div>
  </section>
</template>
