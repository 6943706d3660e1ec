<script setup lang="ts">
import { COVER_KINDS } from '@tidytrail/core/level'
import { coverWord } from '../../kinds/cover/paint'
import NumberField from '../../ui/NumberField.vue'
import type { ImportForm } from './import-form'

defineOptions({ inheritAttrs: false })
const { form } = defineProps<{ form: ImportForm }>()
</script>

<template>
  <fieldset class="row">
    <span class="label">coordinates in</span>
    <label class="row gap-1!"
      ><input v-model="form.units" type="radio" value="metres" class="accent-pine" /> metres</label
    >
    <label class="row gap-1!"
      ><input v-model="form.units" type="radio" value="degrees" class="accent-pine" /> degrees</label
    >
  </fieldset>
  <div class="grid grid-cols-2 gap-3">
    <template v-if="form.units === 'degrees'">
      <NumberField
        label="origin, longitude"
        unit="°"
        :digits="5"
        :min="-180"
        :max="180"
        :value="form.originLon"
        @change="(v) => (form.originLon = v)"
      />
      <NumberField
        label="origin, latitude"
        unit="°"
        :digits="5"
        :min="-90"
        :max="90"
        :value="form.originLat"
        @change="(v) => (form.originLat = v)"
      />
    </template>
    <template v-else>
      <NumberField label="taken off eastings" unit="m" :value="form.offsetX" @change="(v) => (form.offsetX = v)" />
      <NumberField label="taken off northings" unit="m" :value="form.offsetY" @change="(v) => (form.offsetY = v)" />
    </template>
    <NumberField label="moved east" unit="m" :value="form.x" @change="(v) => (form.x = v)" />
    <NumberField label="moved north" unit="m" :value="form.y" @change="(v) => (form.y = v)" />
    <label class="block">
      <span class="label">polygons become</span>
      <select v-model="form.polygons" class="field" aria-label="Polygons become">
        <option value="solids">solids</option>
        <option value="covers">covers</option>
        <option value="reachAreas">reach areas</option>
        <option value="nothing">nothing</option>
      </select>
    </label>
    <label class="block">
      <span class="label">lines become</span>
      <select v-model="form.lines" class="field" aria-label="Lines become">
        <option value="routes">routes</option>
        <option value="lanes">lanes</option>
        <option value="walls">walls</option>
        <option value="nothing">nothing</option>
      </select>
    </label>
    <label class="block">
      <span class="label">points become</span>
      <select v-model="form.points" class="field" aria-label="Points become">
        <option value="markers">markers</option>
        <option value="stops">stops of one route</option>
        <option value="nodes">nodes of a network</option>
        <option value="spawners">spawners</option>
        <option value="nothing">nothing</option>
      </select>
    </label>
    <label class="row self-end pb-1">
      <input v-model="form.useHeights" type="checkbox" class="accent-pine" /> take their heights where given
    </label>
    <NumberField
      v-if="form.polygons === 'solids' || form.lines === 'walls'"
      label="height where none is given"
      unit="m"
      :min="0.05"
      :value="form.heightM"
      @change="(v) => (form.heightM = v)"
    />
    <NumberField
      v-if="form.lines === 'walls'"
      label="walls as thick as"
      unit="m"
      :min="0.02"
      :value="form.wallM"
      @change="(v) => (form.wallM = v)"
    />
    <label v-if="form.polygons === 'covers'" class="block">
      <span class="label">kind of cover</span>
      <select v-model="form.coverKind" class="field" aria-label="Kind of cover">
        <option v-for="k in COVER_KINDS" :key="k" :value="k">{{ coverWord(k) }}</option>
      </select>
    </label>
  </div>
</template>
