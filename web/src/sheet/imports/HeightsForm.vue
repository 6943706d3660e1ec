<script setup lang="ts">
import { CHANNELS, HOLES } from '@tidytrail/core/formats'
import { useLevelStore } from '../../stores/level'
import NumberField from '../../ui/NumberField.vue'
import type { ImportForm } from './import-form'

defineOptions({ inheritAttrs: false })
const { form, ranged } = defineProps<{ form: ImportForm; ranged: boolean }>()
const levels = useLevelStore()
const HOLE_WORDS = {
  fill: 'filled in from around them',
  cut: 'cut off at the edges',
  keep: 'kept, and off limits',
}
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
    <label v-if="form.cells !== ''" class="block">
      <span class="label">its cells are in</span>
      <select v-model="form.cells" class="field" aria-label="Its cells are in">
        <option value="metres">metres</option>
        <option value="degrees">degrees</option>
      </select>
    </label>
    <label v-else class="block">
      <span class="label">heights are in its</span>
      <select v-model="form.channel" class="field" aria-label="Heights are in its">
        <option v-for="c in CHANNELS" :key="c" :value="c">{{ c }}</option>
      </select>
    </label>
    <template v-if="ranged">
      <NumberField label="black is at" unit="m" :value="form.lowM" @change="(v) => (form.lowM = v)" />
      <NumberField label="white is at" unit="m" :value="form.highM" @change="(v) => (form.highM = v)" />
    </template>
    <NumberField label="west edge" unit="m" :digits="3" :value="form.x" @change="(v) => (form.x = v)" />
    <NumberField label="south edge" unit="m" :digits="3" :value="form.y" @change="(v) => (form.y = v)" />
  </div>
  <label v-if="!ranged" class="block">
    <span class="label">places without data are</span>
    <select v-model="form.holes" class="field" aria-label="Places without data are">
      <option v-for="h in HOLES" :key="h" :value="h">{{ HOLE_WORDS[h] }}</option>
    </select>
  </label>
  <label class="row"
    ><input v-model="form.fitExtent" type="checkbox" class="accent-pine" /> make the level as large as these
    heights</label
  >
  <p v-if="levels.doc.ground.heights" class="text-[13px] text-ochre">They replace the heights there are.</p>
</template>
