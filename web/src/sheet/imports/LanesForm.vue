<script setup lang="ts">
import NumberField from '../../ui/NumberField.vue'
import type { ImportForm } from './import-form'

defineOptions({ inheritAttrs: false })
const { form } = defineProps<{ form: ImportForm }>()
</script>

<template>
  <p class="text-[13px] text-faded">
    Every lane one drives or walks along becomes a lane of the level where it lies; ways through junctions become joins,
    and junctions are made with who goes first.
  </p>
  <div class="grid grid-cols-2 gap-3">
    <NumberField label="middle, east" unit="m" :value="form.x" @change="(v) => (form.x = v)" />
    <NumberField label="middle, north" unit="m" :value="form.y" @change="(v) => (form.y = v)" />
    <label class="col-span-2 row">
      <input v-model="form.useHeights" type="checkbox" class="accent-pine" /> at the heights of the file, not on the
      ground
    </label>
    <label class="col-span-2 row">
      <input v-model="form.fitExtent" type="checkbox" class="accent-pine" /> make the level as large as they need
    </label>
  </div>
</template>
