<script setup lang="ts">
import { changeSettings } from '@tidytrail/core/level'
import { useLevelStore } from '../stores/level'
import { KIND_LAYERS } from '../kinds'
import { OVER_LAYERS, UNDER_LAYERS } from '../map/base-layers'
import { useSheetStore } from '../stores/sheet'
import StrokeDrawing from '../ui/StrokeDrawing.vue'
import type { Stroke } from '../ui/stroke'

const sheet = useSheetStore()
const levels = useLevelStore()
const GRIDS = [0.1, 0.25, 0.5, 1, 2, 5, 10]
const LAYERS = [...UNDER_LAYERS, ...KIND_LAYERS, ...OVER_LAYERS]

/** How each kind of route and what is said of stops is drawn. */
const KEY: (Stroke & { name: string })[] = [
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
  <section class="panel w-[262px] px-3 py-2" aria-label="Legend" data-passing>
    <div class="mb-1 flex items-baseline justify-between">
      <h2 class="text-[15px]">Legend</h2>
      <span class="label">show or hide</span>
    </div>
    <label v-for="l in LAYERS" :key="l.id" class="flex cursor-pointer items-center gap-2 py-px text-[13px]">
      <input type="checkbox" class="accent-pine" :checked="sheet.isShown(l.id)" @change="sheet.toggleLayer(l.id)" />
      <StrokeDrawing :strokes="l.strokes" />
      {{ l.name }}
    </label>
    <div class="mt-1.5 grid grid-cols-2 gap-x-2 border-t border-rule pt-1.5 text-[12.5px]">
      <span v-for="k in KEY" :key="k.name" class="row gap-1.5! py-px">
        <StrokeDrawing :strokes="[k]" :height="16" />
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
