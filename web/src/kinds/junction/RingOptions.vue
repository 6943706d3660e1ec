<script setup lang="ts">
import NumberField from '../../ui/NumberField.vue'
import { ringing } from './ring-options'
</script>

<template>
  <span class="row items-end! gap-3!">
    <NumberField
      class="w-24"
      label="radius"
      unit="m"
      :value="ringing.radiusM"
      :min="6"
      :max="200"
      @change="ringing.radiusM = $event"
    />
    <NumberField
      class="w-24"
      label="lane width"
      unit="m"
      :value="ringing.widthM"
      :min="0.5"
      :max="50"
      @change="ringing.widthM = $event"
    />
  </span>
</template>
