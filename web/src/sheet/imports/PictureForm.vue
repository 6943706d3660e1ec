<script setup lang="ts">
import NumberField from '../../ui/NumberField.vue'
import type { ImportForm } from './import-form'

defineOptions({ inheritAttrs: false })
const { form } = defineProps<{ form: ImportForm }>()
</script>

<template>
  <div class="grid grid-cols-2 gap-3">
    <NumberField label="as wide as" unit="m" :min="0.1" :value="form.widthM" @change="(v) => (form.widthM = v)" />
    <span />
    <NumberField label="west edge" unit="m" :digits="3" :value="form.x" @change="(v) => (form.x = v)" />
    <NumberField label="south edge" unit="m" :digits="3" :value="form.y" @change="(v) => (form.y = v)" />
  </div>
  <p class="text-[13px] text-faded">Afterwards two places whose distance you know place it exactly.</p>
</template>
