<script setup lang="ts">
import NumberField from '../../ui/NumberField.vue'
import { paving } from './road-options'
</script>

<template>
  <span class="row items-end! gap-3!">
    <NumberField
      class="w-20"
      label="ahead"
      :value="paving.ahead"
      :min="0"
      :max="6"
      :digits="0"
      @change="paving.ahead = Math.round($event)"
    />
    <NumberField
      class="w-20"
      label="back"
      :value="paving.back"
      :min="0"
      :max="6"
      :digits="0"
      @change="paving.back = Math.round($event)"
    />
    <NumberField
      class="w-24"
      label="lane width"
      unit="m"
      :value="paving.laneM"
      :min="0.5"
      :max="50"
      @change="paving.laneM = $event"
    />
    <NumberField
      class="w-24"
      label="pavements"
      unit="m"
      :value="paving.pavementM"
      :min="0"
      :max="50"
      @change="paving.pavementM = $event"
    />
    <label class="row gap-1!"><input v-model="paving.smooth" type="checkbox" class="accent-pine" /> smooth</label>
  </span>
</template>
