<script setup lang="ts">
import { IconArrowsExchange } from '@tabler/icons-vue'
import { floorsAt, floorUnder, terrainOf } from '@tidytrail/core/ground'
import { movePlaces, reverseRoute, ROUTE_KINDS, setTravel, type Route, type TravelMode } from '@tidytrail/core/level'
import { spawnersOfRoute } from '@tidytrail/core/network'
import { computed, ref } from 'vue'
import { useTravelStore } from '../../stores/travel'
import ActionMenu from '../../ui/ActionMenu.vue'
import { TRAVEL_WORDS } from '../../ui/figures'
import CardFrame from '../card/CardFrame.vue'
import ChangingList from './ChangingList.vue'
import CrossingList from './CrossingList.vue'
import HaltList from './HaltList.vue'
import LaneEnd from './LaneEnd.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'
import { KIND_WORDS } from './draw-options'
import RouteFigures from './RouteFigures.vue'
import { useRouteSelection, useRouteShapes } from './shapes'
import StopList from './StopList.vue'
import { compareNames } from '../../ui/names'

const props = defineProps<{ id: string }>()
const { levels, sheet, thing: route, things, set, setField, release, remove } = useThing('routes', () => props.id)
const MODES: TravelMode[] = ['one-way', 'round', 'there-and-back', 'any-order']
const MODE_WORDS: Record<TravelMode, string> = { ...TRAVEL_WORDS, 'there-and-back': 'To and fro', 'any-order': 'Any' }

const shapes = useRouteShapes()
const gathering = useRouteSelection()
const more = ref(false)
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
function goOn(from: 'first' | 'last') {
  sheet.goOnWith = { routeId: props.id, from }
  sheet.stage = 'routes'
  sheet.toolId = 'draw'
}

const others = computed(() =>
  Object.entries(levels.doc.routes)
    .filter(([r, o]) => r !== props.id && o.kind === route.value.kind && o.order.length > 0 && !o.locked)
    .sort(([, a], [, b]) => compareNames(a.name, b.name))
    .slice(0, 12),
)
const shapeItems = computed(() => [
  { name: 'Reverse', run: () => levels.perform(reverseRoute, { routeId: props.id }) },
  route.value.travel === 'round'
    ? { name: 'Open the round', run: () => shapes.open(props.id) }
    : { name: 'Close into a round', run: () => shapes.close(props.id), off: route.value.order.length < 3 },
  { name: 'Go on from the start', run: () => goOn('first'), off: route.value.travel === 'round' },
  { name: 'Mirror west for east', run: () => shapes.turn([props.id], { mirror: true }, 'Mirror') },
  { name: 'Turn 90° left', run: () => shapes.turn([props.id], { turnRad: Math.PI / 2 }, 'Turn') },
  { name: 'Turn, scale, mirror …', run: () => (sheet.laying = 'reshape') },
  { name: 'Copy beside it …', run: () => (sheet.laying = 'beside') },
  { name: 'Copies in a row …', run: () => (sheet.laying = 'repeat') },
  { name: 'Name the stops …', run: () => (sheet.laying = 'names') },
  ...others.value.map(([id, o]) => ({ name: `Join ${o.name}`, run: () => shapes.join(props.id, id) })),
])
/** The road that lays it, when it is a lane of one. */
const roadId = computed(() =>
  Object.keys(levels.doc.roads).find((r) => levels.doc.roads[r].lanes.some((l) => l.laneId === props.id)),
)
const travel = useTravelStore()
const chooseItems = computed(() => [
  { name: 'All its stops', run: () => gathering.allStops(props.id) },
  { name: 'Every second stop', run: () => gathering.everySecond(props.id) },
  { name: `Every ${route.value.kind}`, run: () => gathering.sameKind(props.id) },
  { name: 'All it is connected to', run: () => gathering.connected(props.id) },
])
</script>

<template>
  <CardFrame
    :kind="route.kind"
    :name="route.name"
    tone="text-rust"
    :locked="route.locked"
    :subjects="subjects"
    @rename="set({ name: $event })"
  >
    <p v-if="roadId" class="mb-2 text-[13px]">
      <button class="underline" @click="sheet.choose([roadId])">{{ levels.doc.roads[roadId].name }}</button>
      says where it lies and how wide it is.
    </p>
    <div v-else class="mb-2 flex gap-1" role="radiogroup" aria-label="How it is travelled">
      <button
        v-for="m in MODES"
        :key="m"
        class="rounded-full border border-ink px-2 py-px text-[12.5px] whitespace-nowrap"
        :class="route.travel === m ? 'bg-ink font-bold text-sheet' : ''"
        role="radio"
        :aria-checked="route.travel === m"
        :disabled="route.locked"
        @click="levels.perform(setTravel, { routeId: id, travel: m })"
      >
        {{ MODE_WORDS[m] }}
      </button>
    </div>
    <RouteFigures :id="id" :more="more" />
    <button class="btn-quiet -ml-1.5 text-[12.5px]" :aria-expanded="more" @click="more = !more">
      {{ more ? 'Fewer figures and settings' : 'All figures and settings' }}
    </button>
    <button
      class="btn-quiet text-[12.5px]"
      :aria-pressed="travel.routeId === id"
      title="A drop runs along the route at its speed, four times as fast as in life"
      @click="travel.routeId === id ? travel.stop() : travel.start(id)"
    >
      {{ travel.routeId === id ? 'Stop the preview' : 'Preview the travel' }}
    </button>
    <button class="btn-quiet text-[12.5px]" @click="sheet.openDrawer('elevation')">Side view</button>
    <fieldset v-if="more" class="border-t border-dotted border-rule pt-1.5" :disabled="route.locked">
      <label class="block">
        <span class="label">kind</span>
        <select
          class="field"
          aria-label="Kind"
          :value="route.kind"
          @change="set({ kind: ($event.target as HTMLSelectElement).value as Route['kind'] })"
        >
          <option v-for="k in ROUTE_KINDS.filter((r) => r !== 'network')" :key="k" :value="k">
            {{ KIND_WORDS[k] }}
          </option>
        </select>
      </label>
      <ThingFields
        in="routes"
        :things="things"
        restriction="who may use it; nobody ticked means everyone"
        @set="setField"
        @done="release"
      />
    </fieldset>
    <LaneEnd v-if="route.kind === 'lane' && route.use === 'drive' && route.travel === 'one-way'" :id="id" />
    <ChangingList v-if="route.kind === 'lane' && route.use === 'drive'" :id="id" />
    <HaltList v-if="route.kind === 'lane' && route.use === 'drive'" :id="id" />
    <CrossingList v-if="route.kind === 'lane' && route.use === 'walk'" :id="id" />
    <StopList :id="id" />
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
    <template #foot>
      <button
        v-if="!roadId && route.travel !== 'round'"
        class="btn"
        title="Go on drawing from its end"
        :disabled="route.locked"
        @click="goOn('last')"
      >
        Go on
      </button>
      <button
        v-if="!roadId"
        class="btn"
        :disabled="route.locked"
        @click="levels.perform(reverseRoute, { routeId: id })"
      >
        <IconArrowsExchange :size="15" /> Reverse
      </button>
      <ActionMenu v-if="!roadId" label="Shape" :items="shapeItems" :disabled="route.locked" />
      <ActionMenu label="Choose" :items="chooseItems" />
      <button
        v-if="!roadId && Object.keys(unsettled).length > 0"
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
