<script setup lang="ts">
import { ringArea } from '@tidytrail/core/geometry'
import CardFrame from '../../sheet/cards/CardFrame.vue'
import ProfileChoice from '../../ui/ProfileChoice.vue'
import { useThing } from '../../sheet/cards/use-thing'

const props = defineProps<{ id: string }>()
const { thing: area, set, remove } = useThing('reachAreas', () => props.id)
</script>

<template>
  <CardFrame kind="reach area" :name="area.name" tone="text-pine" :locked="area.locked" @rename="set({ name: $event })">
    <p class="text-[13px] text-faded">
      {{ Math.round(Math.abs(ringArea(area.ring))).toLocaleString('en') }} m². A profile with an area goes nowhere
      outside its areas; one without goes everywhere.
    </p>
    <ProfileChoice :chosen="area.profileIds" label="open to" @change="set({ profileIds: $event })" />
    <template #foot><button class="btn text-alarm!" @click="remove">Delete</button></template>
  </CardFrame>
</template>
