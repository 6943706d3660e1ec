<script setup lang="ts">
import NumberField from '../../ui/NumberField.vue'
import type { ImportForm } from './import-form'

defineOptions({ inheritAttrs: false })
const { form } = defineProps<{ form: ImportForm }>()
</script>

<template>
  <p class="text-[13px] text-faded">
    Every street becomes a road with its lanes, cut where streets meet; joins that fit and junctions are made with them.
  </p>
  <div class="grid grid-cols-2 gap-3">
    <NumberField label="middle, east" unit="m" :value="form.x" @change="(v) => (form.x = v)" />
    <NumberField label="middle, north" unit="m" :value="form.y" @change="(v) => (form.y = v)" />
    <label class="col-span-2 row">
      <input v-model="form.fitExtent" type="checkbox" class="accent-pine" /> make the level as large as they need
    </label>
  </div>
</template>
