<script setup lang="ts">
import type { LevelSketch } from '@tidytrail/contract'
import { contours } from 'd3-contour'
import { computed, useId } from 'vue'

const props = defineProps<{ sketch: LevelSketch }>()
const uid = useId()

const WIDTH = 300
const HEIGHT = 188
const PAD = 12

const frame = computed(() => {
  const { minX, minY, maxX, maxY } = props.sketch.extent
  const scale = Math.min((WIDTH - 2 * PAD) / (maxX - minX), (HEIGHT - 2 * PAD) / (maxY - minY))
  const x0 = (WIDTH - (maxX - minX) * scale) / 2
  const y1 = HEIGHT - (HEIGHT - (maxY - minY) * scale) / 2
  return {
    x: (x: number) => x0 + (x - minX) * scale,
    y: (y: number) => y1 - (y - minY) * scale,
    w: (maxX - minX) * scale,
    h: (maxY - minY) * scale,
    x0,
    y0: y1 - (maxY - minY) * scale,
  }
})
const points = (ring: readonly (readonly number[])[]) =>
  ring.map(([x, y]) => `${frame.value.x(x).toFixed(1)},${frame.value.y(y).toFixed(1)}`).join(' ')

/** Contours and water from the coarse heights. */
const lands = computed(() => {
  const rows = props.sketch.heights
  if (rows.length < 2) return { water: '', lines: '' }
  const columns = rows[0].length
  const { minX, minY, maxX, maxY } = props.sketch.extent
  const x = (gx: number) =>
    frame.value.x(minX + (Math.min(columns - 0.5, Math.max(0.5, gx)) - 0.5) * ((maxX - minX) / (columns - 1)))
  const y = (gy: number) =>
    frame.value.y(minY + (Math.min(rows.length - 0.5, Math.max(0.5, gy)) - 0.5) * ((maxY - minY) / (rows.length - 1)))
  const path = (rings: number[][][][]) =>
    rings
      .flatMap((p) =>
        p.map((ring) => `M${ring.map(([gx, gy]) => `${x(gx).toFixed(1)} ${y(gy).toFixed(1)}`).join('L')}Z`),
      )
      .join('')
  const values = rows.flat()
  const generator = contours().size([columns, rows.length])
  const level = props.sketch.waterLevelM
  const low = Math.max(level ?? -Infinity, Math.min(...values))
  const high = Math.max(...values)
  const steps = Array.from({ length: 7 }, (_, k) => low + ((high - low) * (k + 1)) / 8)
  return {
    water: level === null ? '' : path(generator.thresholds([-level])(values.map((v) => -v))[0].coordinates),
    lines: generator
      .thresholds(steps)(values)
      .map((s) => path(s.coordinates))
      .join(''),
  }
})
const lineOf = (r: LevelSketch['routes'][number]) =>
  points(r.closed && r.line.length > 2 ? [...r.line, r.line[0]] : r.line)
</script>

<template>
  <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" class="block w-full bg-desk" role="img" aria-label="Small map of the level">
    <defs>
      <clipPath :id="`clip-${uid}`"><rect :x="frame.x0" :y="frame.y0" :width="frame.w" :height="frame.h" /></clipPath>
    </defs>
    <rect
      :x="frame.x0 - 3"
      :y="frame.y0 - 3"
      :width="frame.w + 6"
      :height="frame.h + 6"
      fill="none"
      stroke="var(--ink)"
      stroke-width="1.2"
    />
    <rect
      :x="frame.x0"
      :y="frame.y0"
      :width="frame.w"
      :height="frame.h"
      fill="var(--paper)"
      stroke="var(--ink)"
      stroke-width=".5"
    />
    <g :clip-path="`url(#clip-${uid})`">
      <path :d="lands.lines" fill="none" stroke="var(--contour)" stroke-width=".5" opacity=".7" />
      <path v-if="lands.water" :d="lands.water" fill="var(--water)" stroke="var(--lake)" stroke-width=".8" />
      <polygon
        v-for="(s, i) in sketch.solids"
        :key="i"
        :points="points(s)"
        fill="var(--sheet)"
        stroke="var(--ink)"
        stroke-width=".8"
      />
      <polyline
        v-for="(r, i) in sketch.routes"
        :key="i"
        :points="lineOf(r)"
        fill="none"
        stroke="var(--rust)"
        stroke-width="1.5"
        stroke-dasharray="5 2.5"
        stroke-linejoin="round"
      />
    </g>
  </svg>
</template>
