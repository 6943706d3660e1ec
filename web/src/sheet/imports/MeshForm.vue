<script setup lang="ts">
import { useLevelStore } from '../../stores/level'
import NumberField from '../../ui/NumberField.vue'
import type { ImportForm } from './import-form'
import { centre } from './mesh'
import type { MeshImport } from '../../workers/importer.protocol'

defineOptions({ inheritAttrs: false })
const { form } = defineProps<{ form: ImportForm; read: MeshImport | undefined }>()
const levels = useLevelStore()
function asInFile() {
  form.x = form.y = form.z = 0
}
</script>

<template>
  <fieldset class="row">
    <span class="label">up is</span>
    <label class="row gap-1!"><input v-model="form.upAxis" type="radio" value="y" class="accent-pine" /> y</label>
    <label class="row gap-1!"><input v-model="form.upAxis" type="radio" value="z" class="accent-pine" /> z</label>
  </fieldset>
  <div class="grid grid-cols-2 gap-3">
    <NumberField
      label="one unit is"
      unit="m"
      :digits="5"
      :min="0.00001"
      :max="10000"
      :value="form.scale"
      @change="(v) => (form.scale = v)"
    />
    <NumberField label="height" unit="m" :digits="3" :value="form.z" @change="(v) => (form.z = v)" />
    <NumberField label="east" unit="m" :digits="3" :value="form.x" @change="(v) => (form.x = v)" />
    <NumberField label="north" unit="m" :digits="3" :value="form.y" @change="(v) => (form.y = v)" />
  </div>
  <div class="row">
    <button class="btn" :disabled="!read" @click="read && centre(form, read, levels.doc)">
      In the middle, on the ground
    </button>
    <button class="btn" @click="asInFile">As in the file</button>
  </div>
</template>
