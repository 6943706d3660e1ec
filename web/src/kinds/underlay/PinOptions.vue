<script setup lang="ts">
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import NumberField from '../../ui/NumberField.vue'
import { applyPin, pinning } from './pin'

const sheet = useSheetStore()
const levels = useLevelStore()
const pinned = computed(() => sheet.chosen && levels.doc.underlays[sheet.chosen] && pinning.b)
const place = () => {
  if (sheet.chosen) applyPin({ levels }, sheet.chosen)
}
</script>

<template>
  <template v-if="pinned">
    <NumberField
      label="they are apart by"
      unit="m"
      :min="0.01"
      :value="pinning.distanceM"
      @change="(v) => (pinning.distanceM = v)"
    />
    <label class="row gap-1.5!"
      ><input v-model="pinning.turn" type="checkbox" class="accent-pine" /> lay the line west to east</label
    >
    <button class="btn btn-main" @click="place">Place the underlay</button>
  </template>
  <span v-else>Click two places on the chosen underlay whose distance you know.</span>
</template>
