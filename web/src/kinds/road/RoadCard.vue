<script setup lang="ts">
import { lengthOf } from '@tidytrail/core/geometry'
import { addAndSet, middleLine, takeApart } from '@tidytrail/core/level'
import { crossingOver } from '@tidytrail/core/traffic'
import { computed, ref } from 'vue'
import { randomId } from '../../stores/random-id'
import { metres } from '../../ui/figures'
import CardFrame from '../card/CardFrame.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'
import PassingList from './PassingList.vue'
import NumberField from '../../ui/NumberField.vue'

/** A road: how many lanes it lays and how wide, who may use them, and the lanes themselves. */
const props = defineProps<{ id: string }>()
const { levels, sheet, thing: road, things, set, setField, release, remove } = useThing('roads', () => props.id)
const lanes = computed(() =>
  road.value.lanes.flatMap(({ laneId }) => {
    const lane = laneId ? levels.doc.routes[laneId] : undefined
    return lane ? [{ id: laneId!, name: lane.name }] : []
  }),
)
const subjects = computed(() => [props.id, ...lanes.value.map((l) => l.id)])
/** The other way round: what was ahead is back, and every lane stays where it is. */
function turn(): void {
  const { points, ahead, back, pavementLeftM, pavementRightM, passing, lanes: own } = road.value
  const other: Record<string, string> = { a: 'b', b: 'a', pl: 'pr', pr: 'pl' }
  set({
    lanes: own.map(({ key, laneId }) => ({ key: other[key] ?? `${other[key[0]]}${key.slice(1)}`, laneId })),
    points: [...points].reverse(),
    ahead: back,
    back: ahead,
    pavementLeftM: pavementRightM,
    pavementRightM: pavementLeftM,
    passing: passing
      .map(({ fromM, toM }) => ({ fromM: Math.max(0, lengthM.value - toM), toM: Math.max(0, lengthM.value - fromM) }))
      .reverse(),
  })
}
function apart(): void {
  const ids = lanes.value.map((l) => l.id)
  levels.perform(takeApart, { roadId: props.id })
  sheet.choose(ids)
}
/** Where the next crossing is laid, metres along its middle; in the middle of it until something is said. */
const crossingM = ref<number>()
const lengthM = computed(() => lengthOf(middleLine(road.value)))
function cross(): void {
  const ids = { laneId: randomId('routes'), fromId: randomId('waypoints'), toId: randomId('waypoints') }
  const add = crossingOver(levels.doc, props.id, crossingM.value ?? lengthM.value / 2, ids)
  levels.perform(addAndSet, { add, set: [], label: `Lay a crossing over ${road.value.name}` })
  sheet.choose([ids.laneId])
}
</script>

<template>
  <CardFrame
    kind="road"
    :name="road.name"
    tone="text-ink"
    :locked="road.locked"
    :subjects="subjects"
    @rename="set({ name: $event })"
  >
    <p class="text-[13px] text-faded">{{ metres(lengthM) }} · drives on the {{ levels.doc.settings.drivesOn }}</p>
    <fieldset :disabled="road.locked">
      <ThingFields in="roads" :things="things" restriction="who may drive on it" @set="setField" @done="release" />
    </fieldset>
    <PassingList v-if="road.track" :id="id" />
    <h3 class="mt-3 border-t border-rule pt-2 text-[15px]">Its lanes</h3>
    <p v-if="lanes.length === 0" class="text-faded">None: say how many it has.</p>
    <p v-else class="flex flex-wrap gap-1">
      <button v-for="lane in lanes" :key="lane.id" class="btn" @click="sheet.choose([lane.id])">{{ lane.name }}</button>
    </p>
    <h3 class="mt-3 border-t border-rule pt-2 text-[15px]">A crossing for those who walk</h3>
    <fieldset :disabled="road.locked" class="flex items-end gap-2">
      <NumberField
        class="w-28"
        label="so far along"
        unit="m"
        :step="1"
        :digits="1"
        :min="0"
        :value="crossingM ?? lengthM / 2"
        @change="crossingM = $event"
      />
      <button class="btn" @click="cross">Lay it</button>
    </fieldset>
    <template #foot>
      <button class="btn" title="What was ahead is back" @click="turn">Turn it round</button>
      <button class="btn" title="The lanes stay, each by itself" @click="apart">Take apart</button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
