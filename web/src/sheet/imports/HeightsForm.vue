<script setup lang="ts">
import { useLevelStore } from '../../stores/level'
import NumberField from '../../ui/NumberField.vue'
import type { ImportForm } from './import-form'

defineOptions({ inheritAttrs: false })
const { form, ranged } = defineProps<{ form: ImportForm; ranged: boolean }>()
const levels = useLevelStore()
</script>

<template>
  <div class="grid grid-cols-2 gap-3">
    <NumberField
      label="between samples"
      unit="m"
      :digits="4"
      :min="0.01"
      :max="1000"
      :value="form.spacingM"
      @change="(v) => (form.spacingM = v)"
    />
    <span />
    <template v-if="ranged">
      <NumberField label="black is at" unit="m" :value="form.lowM" @change="(v) => (form.lowM = v)" />
      <NumberField label="white is at" unit="m" :value="form.highM" @change="(v) => (form.highM = v)" />
    </template>
    <NumberField label="west edge" unit="m" :digits="3" :value="form.x" @change="(v) => (form.x = v)" />
    <NumberField label="south edge" unit="m" :digits="3" :value="form.y" @change="(v) => (form.y = v)" />
  </div>
  <label class="row"
    ><input v-model="form.fitExtent" type="checkbox" class="accent-pine" /> make the level as large as these
    heights</label
  >
  <p v-if="levels.doc.ground.heights" class="text-[13px] text-ochre">They replace the heights there are.</p>
</template>
