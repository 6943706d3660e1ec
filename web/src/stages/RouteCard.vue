<script setup lang="ts">
import { IconArrowsExchange, IconGripVertical } from '@tabler/icons-vue'
import { floorsAt, floorUnder, terrainOf } from '@tidytrail/core/ground'
import {
  changeThings,
  movePlaces,
  moveStop,
  removeThings,
  reverseRoute,
  setTravel,
  type TravelMode,
} from '@tidytrail/core/level'
import { profilesOfRoute, spawnersOfRoute } from '@tidytrail/core/network'
import { computed, ref } from 'vue'
import { useLevelStore } from '../stores/level'
import { useSheetStore } from '../stores/sheet'
import { useSurveyStore } from '../stores/survey'
import CardFrame from '../sheet/CardFrame.vue'
import { metres, seconds, TRAVEL_WORDS } from '../ui/figures'
import { travelTimeS, walkedLength } from './route-measures'
import { facingWords, pauseWords } from './stop-words'

const props = defineProps<{ id: string }>()
const levels = useLevelStore()
const sheet = useSheetStore()
const survey = useSurveyStore()
const route = computed(() => levels.doc.routes[props.id])
const MODES: TravelMode[] = ['one-way', 'round', 'there-and-back']

const ways = computed(() => survey.ways.get(props.id))
const measures = computed(() => ({ lengthM: walkedLength(ways.value?.ways ?? []), climbM: ways.value?.climbM ?? 0 }))
const profile = computed(() => levels.doc.profiles[profilesOfRoute(levels.doc, props.id)[0] ?? ''])
const timeS = computed(() => {
  const p = profile.value
  return p ? travelTimeS(route.value, measures.value.lengthM, p.gaits[p.gait]) : 0
})
const followers = computed(() =>
  spawnersOfRoute(levels.doc, props.id).map((s) => ({ id: s, ...levels.doc.spawners[s] })),
)
const subjects = computed(() => [props.id, ...route.value.order.map((s) => route.value.stops[s].waypointId)])

/** Waypoints that are not on their floor, with where they would go. */
const unsettled = computed(() => {
  const terrain = terrainOf(levels.doc)
  const places: Record<string, [number, number, number]> = {}
  for (const s of route.value.order) {
    const id = route.value.stops[s].waypointId
    const { at, liftM } = levels.doc.waypoints[id]
    const z = floorUnder(floorsAt(terrain, at[0], at[1]), at[2] - liftM).z + liftM
    if (Math.abs(z - at[2]) > 0.005) places[id] = [at[0], at[1], z]
  }
  return places
})
const dragged = ref<string>()

function drop(onto: number) {
  if (dragged.value) levels.perform(moveStop, { routeId: props.id, stopId: dragged.value, to: onto })
  dragged.value = undefined
}

function onStopKey(event: KeyboardEvent, stopId: string, i: number) {
  if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
    event.preventDefault()
    levels.perform(moveStop, { routeId: props.id, stopId, to: i + (event.key === 'ArrowUp' ? -1 : 1) })
  } else if (event.key === 'Enter') sheet.choose([stopId])
}

function goOn() {
  sheet.goOnWith = { routeId: props.id, from: 'last' }
  sheet.stage = 'routes'
  sheet.toolId = 'draw'
}

function remove() {
  levels.perform(removeThings, { ids: [props.id] })
  sheet.choose([])
}
</script>

<template>
  <CardFrame
    :kind="route.kind"
    :name="route.name"
    tone="text-rust"
    :locked="route.locked"
    :subjects="subjects"
    @rename="levels.perform(changeThings, { in: 'routes', changes: { [id]: { name: $event } } })"
  >
    <div class="mb-2 flex gap-1" role="radiogroup" aria-label="How it is travelled">
      <button
        v-for="m in MODES"
        :key="m"
        class="rounded-full border border-ink px-2 py-px text-[12.5px]"
        :class="route.travel === m ? 'bg-ink font-bold text-sheet' : ''"
        role="radio"
        :aria-checked="route.travel === m"
        :disabled="route.locked"
        @click="levels.perform(setTravel, { routeId: id, travel: m })"
      >
        {{ TRAVEL_WORDS[m] }}
      </button>
    </div>
    <dl class="grid grid-cols-3 text-[13px]">
      <div>
        <dt class="label">walked</dt>
        <dd class="font-bold">{{ metres(measures.lengthM) }}</dd>
      </div>
      <div>
        <dt class="label">{{ profile ? `at a ${profile.gait}` : 'time' }}</dt>
        <dd class="font-bold">{{ profile ? seconds(timeS) : '–' }}</dd>
      </div>
      <div>
        <dt class="label">climb</dt>
        <dd class="font-bold">{{ metres(measures.climbM) }}</dd>
      </div>
    </dl>
    <div class="mt-2 flex items-baseline justify-between">
      <h3 class="text-[15px]">Stops</h3>
      <span class="label">pause · facing</span>
    </div>
    <ol class="mt-1" aria-label="Stops, in order">
      <li
        v-for="(stopId, i) in route.order"
        :key="stopId"
        tabindex="0"
        class="group flex cursor-pointer items-center gap-2 border-t border-dotted border-rule py-[3px] hover:bg-tint/60"
        :title="'Click to open; drag, or Alt and arrow keys, to reorder'"
        :draggable="!route.locked"
        @dragstart="dragged = stopId"
        @dragover.prevent
        @drop.prevent="drop(i)"
        @click="sheet.choose([stopId])"
        @keydown="onStopKey($event, stopId, i)"
      >
        <span class="w-5 text-right font-bold text-rust">{{ i + 1 }}</span>
        <span class="min-w-0 flex-1 truncate">{{
          levels.doc.waypoints[route.stops[stopId].waypointId].name || `Stop ${i + 1}`
        }}</span>
        <span class="w-11 shrink-0 text-right">{{ pauseWords(route.stops[stopId]) }}</span>
        <span class="w-6 shrink-0 text-right text-faded">{{ facingWords(route.stops[stopId].facingRad) }}</span>
        <IconGripVertical :size="13" class="text-faded opacity-0 group-hover:opacity-100" aria-hidden="true" />
      </li>
    </ol>
    <p class="mt-2 border-t border-rule pt-2 text-[13px] text-faded">
      <template v-if="followers.length > 0"
        >Followed by
        <template v-for="(f, i) in followers" :key="f.id"
          ><template v-if="i > 0">, </template
          ><b class="text-ink">{{ f.count > 1 ? `${f.count} from ` : '' }}{{ f.name }}</b></template
        >.</template
      >
      <template v-else>Nobody follows it yet.</template>
    </p>
    <label class="row mt-1 text-[13px]" title="Found legs go round what is in the way; drawn legs are exactly the line">
      <span class="text-faded">Legs are</span>
      <select
        class="field w-auto! py-0!"
        aria-label="Legs"
        :value="route.legs"
        @change="
          levels.perform(changeThings, {
            in: 'routes',
            changes: { [id]: { legs: ($event.target as HTMLSelectElement).value as 'found' } },
          })
        "
      >
        <option value="found">found over the reach map</option>
        <option value="drawn">exactly as drawn</option>
      </select>
    </label>
    <template #foot>
      <button v-if="route.travel !== 'round'" class="btn" :disabled="route.locked" @click="goOn">Go on drawing</button>
      <button class="btn" :disabled="route.locked" @click="levels.perform(reverseRoute, { routeId: id })">
        <IconArrowsExchange :size="15" /> Reverse
      </button>
      <button
        v-if="Object.keys(unsettled).length > 0"
        class="btn"
        :disabled="route.locked"
        @click="levels.perform(movePlaces, { places: unsettled, word: 'Settle' })"
      >
        Settle {{ Object.keys(unsettled).length }}
      </button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
