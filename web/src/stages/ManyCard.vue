<script setup lang="ts">
import { removeStops, removeThings } from '@tidytrail/core/level'
import { useLevelStore } from '../stores/level'
import { useSheetStore } from '../stores/sheet'
import CardFrame from '../sheet/CardFrame.vue'
import { count } from '../ui/figures'

const props = defineProps<{ ids: readonly string[] }>()
const levels = useLevelStore()
const sheet = useSheetStore()

function remove() {
  const level = levels.doc
  levels.together(`Delete ${count(props.ids.length, 'thing')}`, [
    (l) =>
      removeThings.apply(l, {
        ids: props.ids.filter((id) => level.solids[id] || level.routes[id] || level.spawners[id]),
      }),
    ...Object.entries(level.routes)
      .map(([routeId, r]) => ({ routeId, stopIds: props.ids.filter((id) => r.stops[id]) }))
      .filter((r) => r.stopIds.length > 0)
      .map((args) => (l: typeof level) => removeStops.apply(l, args)),
  ])
  sheet.choose([])
}
</script>

<template>
  <CardFrame :kind="count(ids.length, 'thing')" name="Several at once" fixed tone="text-ink">
    <p class="text-faded">Drag one of them to move them all. Shift and click to add or take away.</p>
    <template #foot
      ><button class="btn text-alarm!" @click="remove">Delete all {{ ids.length }}</button></template
    >
  </CardFrame>
</template>
