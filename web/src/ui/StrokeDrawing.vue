<script setup lang="ts">
import type { Stroke } from './stroke'

withDefaults(defineProps<{ strokes: readonly Stroke[]; width?: number; height?: number; box?: string }>(), {
  width: 34,
  height: 18,
})
const ink = (name: string | undefined) => (name ? `var(--${name})` : 'none')
</script>

<template>
  <svg
    :width="width"
    :height="height"
    :viewBox="box ?? `0 0 ${width} ${height}`"
    fill="none"
    class="shrink-0"
    aria-hidden="true"
    stroke-linecap="round"
  >
    <path
      v-for="(s, k) in strokes"
      :key="k"
      :d="s.d"
      :stroke="s.width === 0 ? 'none' : ink(s.ink)"
      :stroke-width="s.width ?? 1"
      :stroke-dasharray="s.dash"
      :fill="ink(s.fill)"
      :opacity="s.opacity"
    />
  </svg>
</template>
