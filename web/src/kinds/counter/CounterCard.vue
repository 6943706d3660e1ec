<script setup lang="ts">
import { laneNet } from '@tidytrail/core/traffic'
import { computed } from 'vue'
import { useInsightStore } from '../../stores/insight'
import { useRehearsalStore } from '../../stores/rehearsal'
import { seconds } from '../../ui/figures'
import { compareNames } from '../../ui/names'
import CardFrame from '../card/CardFrame.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'

/** A counter: what passed it in the rehearsal, and how long it is from there to another. */
const props = defineProps<{ id: string }>()
const { levels, sheet, thing: counter, things, set, setField, release, remove } = useThing('counters', () => props.id)
const insight = useInsightStore()
const rehearsal = useRehearsalStore()
const figures = computed(() => insight.traffic?.counters[props.id])
const lanes = computed(() => {
  const { routes } = levels.doc
  return [...laneNet(levels.doc).lanes.keys()].sort((a, b) => compareNames(routes[a].name, routes[b].name))
})
const others = computed(() => Object.entries(levels.doc.counters).filter(([id]) => id !== props.id))
const chosenOf = (event: Event) => (event.target as HTMLSelectElement).value || null
const rows = computed(() => {
  const f = figures.value
  if (!f) return []
  return [
    ['passed', f.count.toLocaleString('en')],
    ['flow', `${Math.round(f.perH).toLocaleString('en')} an hour`],
    ['speed', f.count > 0 ? `${f.mps.toFixed(1)} m/s` : 'nobody'],
    ['density', `${f.perKm.toFixed(1)} a kilometre`],
    ['headway', f.count > 1 ? seconds(f.headwayS) : 'nobody'],
  ]
})
</script>

<template>
  <CardFrame
    kind="counter"
    :name="counter.name"
    tone="text-lake"
    :locked="counter.locked"
    @rename="set({ name: $event })"
  >
    <dl v-if="figures" class="grid grid-cols-[6rem_1fr] gap-x-2" data-testid="counted">
      <template v-for="[word, figure] in rows" :key="word">
        <dt class="text-faded">{{ word }}</dt>
        <dd class="font-bold">{{ figure }}</dd>
      </template>
    </dl>
    <p v-else class="text-faded">{{ rehearsal.begun ? 'Counting …' : 'Rehearse, to see who passes.' }}</p>
    <fieldset :disabled="counter.locked" class="mt-2 border-t border-rule pt-1">
      <label class="block">
        <span class="label">on the lane</span>
        <select
          class="field"
          aria-label="on the lane"
          :value="counter.laneId ?? ''"
          @change="set({ laneId: chosenOf($event) })"
        >
          <option v-for="laneId in lanes" :key="laneId" :value="laneId">{{ levels.doc.routes[laneId].name }}</option>
        </select>
      </label>
      <ThingFields in="counters" :things="things" @set="setField" @done="release" />
      <label class="mt-1 block">
        <span class="label">time to</span>
        <select
          class="field"
          aria-label="time to"
          :value="counter.toId ?? ''"
          @change="set({ toId: chosenOf($event) })"
        >
          <option value="">no other counter</option>
          <option v-for="[otherId, other] in others" :key="otherId" :value="otherId">{{ other.name }}</option>
        </select>
      </label>
      <p v-if="figures?.travel" class="mt-1" data-testid="travel">
        <template v-if="figures.travel.count > 0">
          {{ figures.travel.count.toLocaleString('en') }} passed both: {{ seconds(figures.travel.medianS) }} in the
          middle, {{ seconds(figures.travel.p95S) }} for the slowest twentieth.
        </template>
        <template v-else>Nobody passed this one and then that one.</template>
      </p>
    </fieldset>
    <template #foot>
      <button class="btn" @click="sheet.openDrawer('traffic')">Show its charts</button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
