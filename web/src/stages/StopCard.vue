<script setup lang="ts">
import { degrees, radians } from '@tidytrail/core/geometry'
import { floorsAt, floorUnder, terrainOf } from '@tidytrail/core/ground'
import { changeStops, changeThings, movePlaces, removeStops, setThings, type Stop } from '@tidytrail/core/level'
import { computed } from 'vue'
import { useLevelStore } from '../stores/level'
import { useSheetStore } from '../stores/sheet'
import CardFrame from '../sheet/CardFrame.vue'
import NumberField from '../ui/NumberField.vue'
import { metres } from '../ui/figures'

const props = defineProps<{ routeId: string; ids: readonly string[] }>()
const levels = useLevelStore()
const sheet = useSheetStore()

const route = computed(() => levels.doc.routes[props.routeId])
const stops = computed(() => props.ids.map((id) => route.value.stops[id]).filter(Boolean))
const index = computed(() => route.value.order.indexOf(props.ids[0]))
const single = computed(() => (props.ids.length === 1 ? stops.value[0] : undefined))
const waypoint = computed(() => (single.value ? levels.doc.waypoints[single.value.waypointId] : undefined))
const above = computed(() => {
  if (!waypoint.value) return 0
  const [x, y, z] = waypoint.value.at
  return z - floorUnder(floorsAt(terrainOf(levels.doc), x, y), z).z
})
const settled = computed(() => {
  const terrain = terrainOf(levels.doc)
  return Object.fromEntries(
    stops.value.map((s) => {
      const { at, liftM } = levels.doc.waypoints[s.waypointId]
      return [s.waypointId, [at[0], at[1], floorUnder(floorsAt(terrain, at[0], at[1]), at[2] - liftM).z + liftM]]
    }),
  )
})

const same = <T,>(read: (s: Stop) => T): { value: T; mixed: boolean } => {
  const values = stops.value.map(read)
  return { value: values[0], mixed: values.some((v) => v !== values[0]) }
}
const lift = computed(() => same((s) => levels.doc.waypoints[s.waypointId].liftM))
const minS = computed(() => same((s) => s.pause.minS))
const maxS = computed(() => same((s) => s.pause.maxS))
const facing = computed(() => same((s) => s.facingRad))

const set = (values: Partial<Omit<Stop, 'waypointId'>>, gesture?: string) =>
  levels.perform(changeStops, { stops: { [props.routeId]: [...props.ids] }, set: values }, gesture)
const setPause = (min: number, max: number, gesture?: string) =>
  set({ pause: { minS: Math.min(min, max), maxS: Math.max(min, max) } }, gesture)

/** Puts the stops so far above the floors they belong to, and keeps them there when they are settled. */
function setLift(liftM: number, gesture?: string) {
  const things = stops.value.map(({ waypointId }) => {
    const [x, y, z] = settled.value[waypointId]
    const floorM = z - levels.doc.waypoints[waypointId].liftM
    const set = { liftM, at: [x, y, Math.round((floorM + liftM) * 1000) / 1000] }
    return { in: 'waypoints' as const, id: waypointId, set }
  })
  levels.perform(setThings, { things, word: 'Lift' }, gesture)
}

function moveTo(axis: 0 | 1 | 2, value: number, gesture?: string) {
  if (!single.value || !waypoint.value) return
  const at = [...waypoint.value.at]
  at[axis] = value
  levels.perform(movePlaces, { places: { [single.value.waypointId]: at } }, gesture)
}

function remove() {
  levels.perform(removeStops, { routeId: props.routeId, stopIds: [...props.ids] })
  sheet.choose([props.routeId])
}
</script>

<template>
  <CardFrame
    :kind="single ? `stop ${index + 1} of ${route.order.length}` : `${stops.length} stops`"
    :name="single ? waypoint?.name || `Stop ${index + 1}` : route.name"
    :fixed="!single"
    tone="text-rust"
    :locked="route.locked"
    :subjects="[...ids, ...stops.map((s) => s.waypointId)]"
    @rename="
      single && levels.perform(changeThings, { in: 'waypoints', changes: { [single.waypointId]: { name: $event } } })
    "
  >
    <button class="btn-quiet -ml-1.5" @click="sheet.choose([routeId])">of {{ route.name }} ›</button>
    <fieldset class="grid grid-cols-2 gap-x-3 gap-y-2" :disabled="route.locked">
      <NumberField
        label="pauses at least"
        unit="s"
        :step="0.1"
        :min="0"
        :value="minS.value"
        :mixed="minS.mixed"
        @change="(v, g) => setPause(v, Math.max(v, maxS.value), g)"
        @done="levels.release()"
      />
      <NumberField
        label="at most"
        unit="s"
        :step="0.1"
        :min="0"
        :value="maxS.value"
        :mixed="maxS.mixed"
        @change="(v, g) => setPause(Math.min(v, minS.value), v, g)"
        @done="levels.release()"
      />
      <NumberField
        label="faces, 90° is north"
        unit="°"
        :step="1"
        :digits="0"
        :value="facing.value === null ? 0 : degrees(facing.value)"
        :mixed="facing.mixed || facing.value === null"
        @change="(v, g) => set({ facingRad: radians(v) }, g)"
        @done="levels.release()"
      />
      <div class="flex items-end">
        <button class="btn" :disabled="facing.value === null" @click="set({ facingRad: null })">No facing</button>
      </div>
      <NumberField
        label="kept above the floor"
        unit="m"
        :step="0.05"
        :min="0"
        :value="lift.value"
        :mixed="lift.mixed"
        @change="(v, g) => setLift(v, g)"
        @done="levels.release()"
      />
      <span class="self-end pb-1 text-[12.5px] text-faded">for what flies</span>
      <template v-if="single && waypoint">
        <NumberField
          label="east"
          unit="m"
          :value="waypoint.at[0]"
          @change="(v, g) => moveTo(0, v, g)"
          @done="levels.release()"
        />
        <NumberField
          label="north"
          unit="m"
          :value="waypoint.at[1]"
          @change="(v, g) => moveTo(1, v, g)"
          @done="levels.release()"
        />
        <NumberField
          label="height"
          unit="m"
          :step="0.05"
          :value="waypoint.at[2]"
          @change="(v, g) => moveTo(2, v, g)"
          @done="levels.release()"
        />
        <p class="self-end pb-1 text-[12.5px] text-faded">
          {{
            Math.abs(above) < 0.005
              ? 'settled on its floor'
              : above > 0
                ? `${metres(above)} above its floor`
                : `${metres(-above)} below its floor`
          }}
        </p>
      </template>
    </fieldset>
    <template #foot>
      <button
        class="btn"
        :disabled="route.locked"
        @click="levels.perform(movePlaces, { places: settled, word: 'Settle' })"
      >
        Settle{{ stops.length > 1 ? ` ${stops.length} stops` : '' }}
      </button>
      <button class="btn text-alarm!" :disabled="route.locked" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
