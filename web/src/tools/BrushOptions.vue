<script setup lang="ts">
import { metres } from '../ui/figures'
import { BRUSH_HINTS, BRUSH_WORDS, BRUSHES, heightBrush } from './brush-heights'
</script>

<template>
  <label v-for="k in BRUSHES" :key="k" class="row gap-1!" :title="BRUSH_HINTS[k]">
    <input v-model="heightBrush.kind" type="radio" name="brush" class="accent-pine" :value="k" />
    {{ BRUSH_WORDS[k] }}
  </label>
  <label class="row gap-1.5!">
    size
    <input
      v-model.number="heightBrush.radiusM"
      type="range"
      min="1"
      max="60"
      step="0.5"
      class="w-[84px] accent-pine"
      aria-label="Radius of the brush"
    />
    <span class="w-[44px]">{{ metres(heightBrush.radiusM) }}</span>
  </label>
  <label v-if="heightBrush.kind !== 'ramp'" class="row gap-1.5!">
    strength
    <input
      v-model.number="heightBrush.strength"
      type="range"
      min="0.05"
      max="1"
      step="0.05"
      class="w-[70px] accent-pine"
      aria-label="Strength of the brush"
    />
  </label>
</template>
