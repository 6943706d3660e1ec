<script setup lang="ts">
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import NumberField from '../../ui/NumberField.vue'
import { applyCalibration, calibration } from './calibrate'

const sheet = useSheetStore()
const levels = useLevelStore()
const pinned = computed(() => sheet.chosen && levels.doc.underlays[sheet.chosen] && calibration.b)
const place = () => {
  if (sheet.chosen) applyCalibration({ levels }, sheet.chosen)
}
</script>

<template>
  <template v-if="pinned">
    <NumberField
      label="they are apart by"
      unit="m"
      :min="0.01"
      :value="calibration.distanceM"
      @change="(v) => (calibration.distanceM = v)"
    />
    <label class="row gap-1.5!"
      ><input v-model="calibration.turn" type="checkbox" class="accent-pine" /> lay the line west to east</label
    >
    <button class="btn btn-main" @click="place">Place the underlay</button>
  </template>
  <span v-else>Click two places on the chosen underlay whose distance you know.</span>
</template>
