<script setup lang="ts">
import { addStop } from '@tidytrail/core/level'
import { computed } from 'vue'
import { randomId } from '../../stores/random-id'
import CardFrame from '../../sheet/cards/CardFrame.vue'
import NumberField from '../../ui/NumberField.vue'
import { useThing } from '../../sheet/cards/use-thing'

/** A waypoint that belongs to no route. */
const props = defineProps<{ id: string }>()
const { levels, sheet, thing, set, release, remove } = useThing('waypoints', () => props.id)
const routes = computed(() =>
  Object.entries(levels.doc.routes)
    .filter(([, r]) => r.kind !== 'network' && !r.locked)
    .sort(([, a], [, b]) => a.name.localeCompare(b.name, 'en', { numeric: true })),
)
const move = (axis: number, v: number, g?: string) =>
  set({ at: thing.value.at.map((c, k) => (k === axis ? v : c)) as [number, number, number] }, g)
function addTo(routeId: string) {
  const stopId = randomId('stops')
  levels.perform(addStop, { routeId, stopId, waypointId: props.id })
  sheet.choose([stopId])
}
</script>

<template>
  <CardFrame kind="waypoint" :name="thing.name || 'Waypoint'" tone="text-faded" @rename="set({ name: $event })">
    <p class="text-[13px] text-faded">It belongs to no route.</p>
    <div class="mt-1 grid grid-cols-2 gap-x-3 gap-y-2">
      <NumberField label="east" unit="m" :value="thing.at[0]" @change="(v, g) => move(0, v, g)" @done="release()" />
      <NumberField label="north" unit="m" :value="thing.at[1]" @change="(v, g) => move(1, v, g)" @done="release()" />
      <NumberField
        label="height"
        unit="m"
        :step="0.05"
        :value="thing.at[2]"
        @change="(v, g) => move(2, v, g)"
        @done="release()"
      />
    </div>
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
