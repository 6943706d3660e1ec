<script setup lang="ts">
import { drawing, KIND_WORDS } from './draw-options'

const DRAWN_KINDS = ['patrol', 'lane', 'circuit', 'mission'] as const
</script>

<template>
  <label v-for="k in DRAWN_KINDS" :key="k" class="row gap-1!">
    <input v-model="drawing.kind" type="radio" name="route-kind" class="accent-pine" :value="k" />
    {{ KIND_WORDS[k] }}
  </label>
  <span class="row gap-1.5!">
    a drag draws
    <select v-model="drawing.drag" class="field w-auto! py-0!" aria-label="What a drag draws">
      <option value="freehand">freehand, true to</option>
      <option value="spaced">a stop every</option>
    </select>
    <input
      v-if="drawing.drag === 'freehand'"
      v-model.number="drawing.toleranceM"
      class="field w-[56px]! py-0!"
      type="number"
      min="0.1"
      max="50"
      step="0.1"
      aria-label="Tolerance of a stroke, m"
    />
    <input
      v-else
      v-model.number="drawing.spacingM"
      class="field w-[56px]! py-0!"
      type="number"
      min="0.5"
      max="500"
      step="0.5"
      aria-label="Distance from stop to stop, m"
    />
    m
  </span>
  <label class="row gap-1!" title="Stops go into the middle between what stands on both sides">
    <input v-model="drawing.middle" type="checkbox" class="accent-pine" /> keep to the middle
  </label>
</template>
