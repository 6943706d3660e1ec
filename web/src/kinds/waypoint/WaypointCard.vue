<script setup lang="ts">
import { addStop } from '@tidytrail/core/level'
import { computed } from 'vue'
import { randomId } from '../../stores/random-id'
import CardFrame from '../card/CardFrame.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'
import { compareNames } from '../../ui/names'

/** A waypoint that belongs to no route. */
const props = defineProps<{ id: string }>()
const { levels, sheet, thing, things, set, setField, release, remove } = useThing('waypoints', () => props.id)
const routes = computed(() =>
  Object.entries(levels.doc.routes)
    .filter(([, r]) => r.kind !== 'network' && !r.locked)
    .sort(([, a], [, b]) => compareNames(a.name, b.name)),
)
function addTo(routeId: string) {
  const stopId = randomId('stops')
  levels.perform(addStop, { routeId, stopId, waypointId: props.id })
  sheet.choose([stopId])
}
</script>

<template>
  <CardFrame kind="waypoint" :name="thing.name || 'Waypoint'" tone="text-faded" @rename="set({ name: $event })">
    <p class="text-[13px] text-faded">It belongs to no route.</p>
    <ThingFields in="waypoints" :things="things" @set="setField" @done="release" />
    <label v-if="routes.length > 0" class="mt-2 block">
      <span class="label">make it the last stop of</span>
      <select
        class="field"
        aria-label="Make it the last stop of"
        value=""
        @change="addTo(($event.target as HTMLSelectElement).value)"
      >
        <option value="" disabled>choose a route</option>
        <option v-for="[rid, r] in routes" :key="rid" :value="rid">{{ r.name }}</option>
      </select>
    </label>
    <template #foot><button class="btn text-alarm!" @click="remove">Delete</button></template>
  </CardFrame>
</template>
