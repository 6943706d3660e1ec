<script setup lang="ts">
import { zoneShape } from './zone-options'

/** Which shape of zone is drawn. */
const SHAPES = { polygon: 'Outline', circle: 'Circle', band: 'Band along a route' } as const
</script>

<template>
  <fieldset class="flex gap-3" aria-label="Shape of the zone">
    <label v-for="(word, shape) in SHAPES" :key="shape" class="row gap-1!">
      <input v-model="zoneShape" type="radio" class="accent-pine" :value="shape" name="zone-shape" /> {{ word }}
    </label>
  </fieldset>
</template>
