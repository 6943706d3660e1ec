<script setup lang="ts">
import { ringArea } from '@tidytrail/core/geometry'
import CardFrame from '../card/CardFrame.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'

const props = defineProps<{ id: string }>()
const { thing: area, things, set, setField, release, remove } = useThing('reachAreas', () => props.id)
</script>

<template>
  <CardFrame kind="reach area" :name="area.name" tone="text-pine" :locked="area.locked" @rename="set({ name: $event })">
    <p class="text-[13px] text-faded">
      {{ Math.round(Math.abs(ringArea(area.ring))).toLocaleString('en') }} m². A profile with an area goes nowhere
      outside its areas; one without goes everywhere. Open to all it bars nobody. With finer columns, the edges of steep
      ground and of imported meshes in it are told to their width.
    </p>
    <fieldset :disabled="area.locked">
      <ThingFields in="reachAreas" :things="things" restriction="open to" @set="setField" @done="release" />
    </fieldset>
    <template #foot><button class="btn text-alarm!" @click="remove">Delete</button></template>
  </CardFrame>
</template>
