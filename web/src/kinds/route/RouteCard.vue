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
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import { useTravelStore } from '../../stores/travel'
import CardFrame from '../../sheet/cards/CardFrame.vue'
import { ROUTE_COLOURS, ROUTE_KINDS, ROUTE_PATTERNS, setThings, type Route } from '@tidytrail/core/level'
import { degrees } from '@tidytrail/core/geometry'
import { KIND_WORDS } from './draw-options'
import ActionMenu from '../../ui/ActionMenu.vue'
import { metres, seconds, TRAVEL_WORDS } from '../../ui/figures'
import NumberField from '../../ui/NumberField.vue'
import TagsField from '../../ui/TagsField.vue'
import { useRouteFacts } from './facts'
import { useGathering, useRouteShapes } from './shapes'
import { facingWords, pauseWords } from './stop-words'

const props = defineProps<{ id: string }>()
const levels = useLevelStore()
const sheet = useSheetStore()
const route = computed(() => levels.doc.routes[props.id])
const MODES: TravelMode[] = ['one-way', 'round', 'there-and-back', 'any-order']
const MODE_WORDS: Record<TravelMode, string> = { ...TRAVEL_WORDS, 'there-and-back': 'To and fro', 'any-order': 'Any' }

const shapes = useRouteShapes()
const gathering = useGathering()
const facts = useRouteFacts(() => props.id)
const measures = computed(() => facts.value?.measures)
const profile = computed(
  () => levels.doc.profiles[facts.value?.profileId ?? profilesOfRoute(levels.doc, props.id)[0] ?? ''],
)
const set = (values: Partial<Route>, gesture?: string) =>
  levels.perform(setThings, { things: [{ in: 'routes', id: props.id, set: values }], word: 'Change' }, gesture)
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

function goOn(from: 'first' | 'last') {
  sheet.goOnWith = { routeId: props.id, from }
  sheet.stage = 'routes'
  sheet.toolId = 'draw'
}

const others = computed(() =>
  Object.entries(levels.doc.routes)
    .filter(([r, o]) => r !== props.id && o.kind === route.value.kind && o.order.length > 0 && !o.locked)
    .sort(([, a], [, b]) => a.name.localeCompare(b.name, 'en', { numeric: true }))
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
const travel = useTravelStore()
const chooseItems = computed(() => [
  { name: 'All its stops', run: () => gathering.allStops(props.id) },
  { name: 'Every second stop', run: () => gathering.everySecond(props.id) },
  { name: `Every ${route.value.kind}`, run: () => gathering.sameKind(props.id) },
  { name: 'All it is connected to', run: () => gathering.connected(props.id) },
])

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
    <dl class="grid grid-cols-3 gap-y-1 text-[13px]">
      <div>
        <dt class="label">walked</dt>
        <dd class="font-bold">{{ measures ? metres(measures.walkedM) : '…' }}</dd>
      </div>
      <div>
        <dt class="label">{{ profile ? `at a ${profile.gait}` : 'time' }}</dt>
        <dd class="font-bold">{{ profile && measures ? seconds(measures.timesS[profile.gait]) : '–' }}</dd>
      </div>
      <div>
        <dt class="label">climb</dt>
        <dd class="font-bold">{{ measures ? metres(measures.climbM) : '–' }}</dd>
      </div>
      <template v-if="more && measures">
        <div>
          <dt class="label">drawn</dt>
          <dd class="font-bold">{{ metres(measures.drawnM) }}</dd>
        </div>
        <div>
          <dt class="label">steepest</dt>
          <dd class="font-bold">{{ degrees(measures.steepestRad).toFixed(0) }}°</dd>
        </div>
        <div>
          <dt class="label">sharpest turn</dt>
          <dd class="font-bold">
            {{
              measures.sharpestStop < 0
                ? '–'
                : `${degrees(measures.sharpestRad).toFixed(0)}° at ${measures.sharpestStop + 1}`
            }}
          </dd>
        </div>
        <div class="col-span-3">
          <dt class="label">stops apart by</dt>
          <dd class="font-bold">
            {{ metres(measures.spacing.least) }} to {{ metres(measures.spacing.most) }},
            {{ metres(measures.spacing.mean) }} on average
          </dd>
        </div>
        <div class="col-span-3">
          <dt class="label">once, with {{ seconds(measures.pausesS) }} of pauses</dt>
          <dd class="flex flex-wrap gap-x-2.5">
            <span v-for="(s, gait) in measures.timesS" :key="gait" class="whitespace-nowrap"
              >{{ gait }} <b>{{ seconds(s) }}</b></span
            >
          </dd>
        </div>
      </template>
    </dl>
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
    <button class="btn-quiet text-[12.5px]" @click="((sheet.drawerTab = 'profile'), (sheet.panels.drawer = true))">
      Side view
    </button>
    <fieldset
      v-if="more"
      class="grid grid-cols-2 gap-x-3 gap-y-1.5 border-t border-dotted border-rule pt-1.5"
      :disabled="route.locked"
    >
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
      <label class="block">
        <span class="label">line</span>
        <select
          class="field"
          aria-label="Line"
          :disabled="route.legs === 'found'"
          :value="route.legs === 'found' ? 'straight' : route.curve"
          @change="set({ curve: ($event.target as HTMLSelectElement).value as Route['curve'] })"
        >
          <option value="straight">straight</option>
          <option value="smooth">smooth</option>
        </select>
      </label>
      <NumberField
        v-if="route.curve === 'smooth' && route.legs === 'drawn'"
        label="tension"
        unit="%"
        :step="1"
        :min="0"
        :max="100"
        :digits="0"
        :value="route.tension * 100"
        @change="(v, g) => set({ tension: v / 100 }, g)"
        @done="levels.release()"
      />
      <NumberField
        label="width"
        unit="m"
        :min="0"
        :value="route.widthM"
        @change="(v, g) => set({ widthM: v }, g)"
        @done="levels.release()"
      />
      <NumberField
        label="speed limit"
        unit="km/h"
        :step="1"
        :min="0.1"
        :digits="1"
        :none="route.speedLimitMps === null ? 'none' : undefined"
        :value="(route.speedLimitMps ?? 0) * 3.6"
        @change="(v, g) => set({ speedLimitMps: v / 3.6 }, g)"
        @done="levels.release()"
      />
      <div class="flex items-end">
        <button class="btn" :disabled="route.speedLimitMps === null" @click="set({ speedLimitMps: null })">
          No limit
        </button>
      </div>
      <label class="block">
        <span class="label">colour</span>
        <select
          class="field"
          aria-label="Colour"
          :value="route.colour ?? ''"
          @change="set({ colour: (($event.target as HTMLSelectElement).value || null) as Route['colour'] })"
        >
          <option value="">of its kind</option>
          <option v-for="k in ROUTE_COLOURS" :key="k" :value="k">{{ k }}</option>
        </select>
      </label>
      <label class="block">
        <span class="label">pattern</span>
        <select
          class="field"
          aria-label="Pattern"
          :value="route.pattern ?? ''"
          @change="set({ pattern: (($event.target as HTMLSelectElement).value || null) as Route['pattern'] })"
        >
          <option value="">of its kind</option>
          <option v-for="k in ROUTE_PATTERNS" :key="k" :value="k">{{ k.replaceAll('-', ' ') }}</option>
        </select>
      </label>
      <div class="col-span-2">
        <p class="label">who may use it; nobody ticked means everyone</p>
        <div class="flex flex-wrap gap-x-3">
          <label v-for="(p, pid) in levels.doc.profiles" :key="pid" class="row gap-1! text-[13px]">
            <input
              type="checkbox"
              class="accent-pine"
              :checked="route.profileIds.includes(String(pid))"
              @change="
                set({
                  profileIds: route.profileIds.includes(String(pid))
                    ? route.profileIds.filter((x) => x !== pid)
                    : [...route.profileIds, String(pid)],
                })
              "
            />{{ p.name }}
          </label>
        </div>
      </div>
      <div class="col-span-2"><TagsField :tags="route.tags" @change="set({ tags: $event })" /></div>
      <label class="col-span-2 block">
        <span class="label">note</span>
        <textarea
          class="field h-[44px]"
          aria-label="Note"
          :value="route.note"
          @change="set({ note: ($event.target as HTMLTextAreaElement).value })"
        />
      </label>
    </fieldset>
    <div class="mt-2 flex items-baseline justify-between">
      <h3 class="text-[15px]">Stops</h3>
      <span class="label">pause · facing</span>
    </div>
    <ol class="mt-1" aria-label="Stops, in order">
      <li
        v-for="(stopId, i) in route.order.slice(0, 300)"
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
      <button
        v-if="route.travel !== 'round'"
        class="btn"
        title="Go on drawing from its end"
        :disabled="route.locked"
        @click="goOn('last')"
      >
        Go on
      </button>
      <button class="btn" :disabled="route.locked" @click="levels.perform(reverseRoute, { routeId: id })">
        <IconArrowsExchange :size="15" /> Reverse
      </button>
      <ActionMenu label="Shape" :items="shapeItems" :disabled="route.locked" />
      <ActionMenu label="Choose" :items="chooseItems" />
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
