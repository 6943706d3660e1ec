<script setup lang="ts">
import { ringArea } from '@tidytrail/core/geometry'
import { changeThings, removeThings, type ReachArea } from '@tidytrail/core/level'
import { computed } from 'vue'
import CardFrame from '../sheet/CardFrame.vue'
import { useLevelStore } from '../stores/level'
import { useSheetStore } from '../stores/sheet'
import ProfileChoice from '../ui/ProfileChoice.vue'

const props = defineProps<{ id: string }>()
const levels = useLevelStore()
const sheet = useSheetStore()
const area = computed(() => levels.doc.reachAreas[props.id])
const set = (values: Partial<ReachArea>) =>
  levels.perform(changeThings, { in: 'reachAreas', changes: { [props.id]: values } })
function remove() {
  levels.perform(removeThings, { ids: [props.id] })
  sheet.choose([])
}
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
