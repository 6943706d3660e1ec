<script setup lang="ts">
import { degrees, radians } from '@tidytrail/core/geometry'
import { floorsAt, floorUnder, terrainOf } from '@tidytrail/core/ground'
import {
  changeStops,
  changeThings,
  mergeWaypoints,
  movePlaces,
  removeStops,
  separateWaypoint,
  setThings,
  swapStops,
  type Stop,
} from '@tidytrail/core/level'
import { profilesOfRoute } from '@tidytrail/core/network'
import { computed, ref } from 'vue'
import { useLevelStore } from '../../stores/level'
import { randomId } from '../../stores/random-id'
import { useSheetStore } from '../../stores/sheet'
import CardFrame from '../../sheet/cards/CardFrame.vue'
import ActionMenu from '../../ui/ActionMenu.vue'
import NumberField from '../../ui/NumberField.vue'
import TagsField from '../../ui/TagsField.vue'
import { metres } from '../../ui/figures'
import { useRouteShapes } from './shapes'

/** One stop or many, of one route or of several; where they differ a field says so. */
const props = defineProps<{ ids: readonly string[] }>()
const levels = useLevelStore()
const sheet = useSheetStore()
const shapes = useRouteShapes()

const held = computed(() => {
  const wanted = new Set(props.ids)
  return Object.entries(levels.doc.routes).flatMap(([routeId, route]) =>
    route.order.flatMap((id, index) => (wanted.has(id) ? [{ routeId, route, id, index, stop: route.stops[id] }] : [])),
  )
})
const first = computed(() => held.value[0])
const route = computed(() => first.value.route)
const routeIds = computed(() => [...new Set(held.value.map((h) => h.routeId))])
const locked = computed(() => held.value.some((h) => h.route.locked))
const network = computed(() => held.value.every((h) => h.route.kind === 'network'))
const stops = computed(() => held.value.map((h) => h.stop))
const single = computed(() => (held.value.length === 1 ? first.value : undefined))
const waypoint = computed(() => (single.value ? levels.doc.waypoints[single.value.stop.waypointId] : undefined))
const waypointIds = computed(() => [...new Set(stops.value.map((s) => s.waypointId))])
const more = ref(false)

/** Who else stops at the one waypoint, and which links lead from it. */
const sharing = computed(() => {
  const id = single.value?.stop.waypointId
  return Object.entries(levels.doc.routes).flatMap(([routeId, r]) =>
    r.order.flatMap((s, i) =>
      r.stops[s].waypointId === id && s !== single.value?.id ? [{ routeId, route: r, id: s, index: i }] : [],
    ),
  )
})
const links = computed(() => {
  const id = single.value?.stop.waypointId
  return Object.entries(levels.doc.links).flatMap(([linkId, l]) =>
    l.fromId === id || l.toId === id
      ? [{ linkId, ...l, far: l.fromId === id ? l.toId : l.fromId, out: l.fromId === id }]
      : [],
  )
})
const nameOfWaypoint = (id: string) => {
  if (levels.doc.waypoints[id].name) return levels.doc.waypoints[id].name
  for (const r of Object.values(levels.doc.routes)) {
    const n = r.order.findIndex((s) => r.stops[s].waypointId === id)
    if (n >= 0) return `${r.kind === 'network' ? 'node' : 'stop'} ${n + 1} of ${r.name}`
  }
  return 'a waypoint'
}

const floorOf = (at: readonly number[], liftM = 0) =>
  floorUnder(floorsAt(terrainOf(levels.doc), at[0], at[1]), at[2] - liftM).z
const above = computed(() => (waypoint.value ? waypoint.value.at[2] - floorOf(waypoint.value.at) : 0))
const settled = computed(() =>
  Object.fromEntries(
    waypointIds.value.map((id) => {
      const { at, liftM } = levels.doc.waypoints[id]
      return [id, [at[0], at[1], floorOf(at, liftM) + liftM]]
    }),
  ),
)

const same = <T,>(read: (s: Stop) => T): { value: T; mixed: boolean } => {
  const values = stops.value.map(read)
  return { value: values[0], mixed: values.some((v) => JSON.stringify(v) !== JSON.stringify(values[0])) }
}
const lift = computed(() => same((s) => levels.doc.waypoints[s.waypointId].liftM))
const minS = computed(() => same((s) => s.pause.minS))
const maxS = computed(() => same((s) => s.pause.maxS))
const share = computed(() => same((s) => s.pauseShare))
const facing = computed(() => same((s) => s.facingRad))
const look = computed(() => same((s) => s.look))
const gait = computed(() => same((s) => s.gait))
const arrival = computed(() => same((s) => s.arrivalRadiusM))
const action = computed(() => same((s) => s.action))
const note = computed(() => same((s) => s.note))
const sharp = computed(() => same((s) => s.sharp))
const gaits = computed(() => [
  ...new Set(
    routeIds.value
      .flatMap((r) => profilesOfRoute(levels.doc, r))
      .flatMap((p) => Object.keys(levels.doc.profiles[p]?.gaits ?? {})),
  ),
])

const byRoute = computed(() => {
  const map: Record<string, string[]> = {}
  for (const { routeId, id } of held.value) (map[routeId] ??= []).push(id)
  return map
})
const set = (values: Partial<Omit<Stop, 'waypointId'>>, gesture?: string) =>
  levels.perform(changeStops, { stops: byRoute.value, set: values }, gesture)
const setPause = (min: number, max: number, gesture?: string) =>
  set({ pause: { minS: Math.min(min, max), maxS: Math.max(min, max) } }, gesture)
const LOOK_SPAN = Math.PI / 2
const setLook = (part: 'fromRad' | 'toRad', rad: number, gesture?: string) => {
  const now = look.value.value ?? { fromRad: rad - LOOK_SPAN / 2, toRad: rad + LOOK_SPAN / 2 }
  set({ look: { ...now, [part]: rad } }, gesture)
}

/** Puts the stops so far above the floors they belong to, and keeps them there when they are settled. */
function setLift(liftM: number, gesture?: string) {
  const things = waypointIds.value.map((id) => {
    const [x, y, z] = settled.value[id]
    const floorM = z - levels.doc.waypoints[id].liftM
    return { in: 'waypoints' as const, id, set: { liftM, at: [x, y, Math.round((floorM + liftM) * 1000) / 1000] } }
  })
  levels.perform(setThings, { things, word: 'Lift' }, gesture)
}

function moveTo(axis: 0 | 1 | 2, value: number, gesture?: string) {
  if (!single.value || !waypoint.value) return
  const at = [...waypoint.value.at]
  at[axis] = value
  levels.perform(movePlaces, { places: { [single.value.stop.waypointId]: at } }, gesture)
}

function separate() {
  if (!single.value) return
  const newIds = { [single.value.id]: randomId('waypoints') }
  levels.perform(separateWaypoint, { waypointId: single.value.stop.waypointId, newIds })
}

function connect(fromId: string, toId?: string) {
  sheet.connecting = { fromId, toId }
  sheet.toolId = 'connect'
}

function remove() {
  const entries = Object.entries(byRoute.value)
  if (entries.length === 1) levels.perform(removeStops, { routeId: entries[0][0], stopIds: entries[0][1] })
  else
    levels.together(
      `Delete ${held.value.length} stops`,
      entries.map(
        ([routeId, stopIds]) =>
          (l) =>
            removeStops.apply(l, { routeId, stopIds }),
      ),
    )
  sheet.choose(routeIds.value)
}

const items = computed(() => {
  const one = single.value
  const oneRoute = routeIds.value.length === 1 && !network.value
  return [
    ...(one && !network.value
      ? [
          { name: 'Split the route here', run: () => shapes.split(one.routeId, one.id) },
          {
            name: 'Let the round begin here',
            run: () => shapes.startAt(one.routeId, one.id),
            off: one.route.travel !== 'round' || one.index === 0,
          },
        ]
      : []),
    ...(oneRoute && props.ids.length > 1
      ? [{ name: 'Take them out as a new route', run: () => shapes.extract(routeIds.value[0], props.ids) }]
      : []),
    ...(oneRoute && props.ids.length === 2
      ? [
          {
            name: 'Swap the two',
            run: () => levels.perform(swapStops, { routeId: routeIds.value[0], stopIds: [props.ids[0], props.ids[1]] }),
          },
        ]
      : []),
    ...(waypointIds.value.length > 1
      ? [
          {
            name: 'Merge into one waypoint',
            run: () => levels.perform(mergeWaypoints, { waypointIds: waypointIds.value }),
          },
        ]
      : []),
    ...(one ? [{ name: 'Give it a waypoint of its own', run: separate, off: sharing.value.length === 0 }] : []),
    ...(one ? [{ name: 'Show what it connects to', run: () => connect(one.stop.waypointId) }] : []),
    ...(waypointIds.value.length === 2
      ? [
          {
            name: 'Compare the ways between',
            run: () => connect(waypointIds.value[0], waypointIds.value[1]),
          },
        ]
      : []),
    { name: 'A route along the found way …', run: () => (sheet.laying = 'way'), off: props.ids.length < 2 },
  ]
})
</script>

<template>
  <CardFrame
    v-if="first"
    :kind="
      single
        ? `${network ? 'node' : 'stop'} ${single.index + 1} of ${route.order.length}`
        : `${held.length} ${network ? 'nodes' : 'stops'}${routeIds.length > 1 ? ` of ${routeIds.length} routes` : ''}`
    "
    :name="
      single
        ? waypoint?.name || `${network ? 'Node' : 'Stop'} ${single.index + 1}`
        : routeIds.length > 1
          ? 'Several at once'
          : route.name
    "
    :fixed="!single"
    tone="text-rust"
    :locked="locked"
    :subjects="[...ids, ...waypointIds]"
    @rename="
      single &&
      levels.perform(changeThings, { in: 'waypoints', changes: { [single.stop.waypointId]: { name: $event } } })
    "
  >
    <button v-if="routeIds.length === 1" class="btn-quiet -ml-1.5" @click="sheet.choose(routeIds)">
      of {{ route.name }} ›
    </button>
    <p v-if="single && sharing.length > 0" class="mb-1 text-[13px]">
      Shared with
      <button v-for="(s, i) in sharing.slice(0, 6)" :key="s.id" class="underline" @click="sheet.choose([s.id])">
        {{ i > 0 ? ', ' : '' }}{{ s.route.name }} {{ s.index + 1 }}</button
      >.
    </p>
    <fieldset class="grid grid-cols-2 gap-x-3 gap-y-2" :disabled="locked">
      <template v-if="!network">
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
          :mixed="facing.mixed"
          :none="facing.value === null ? 'none' : undefined"
          @change="(v, g) => set({ facingRad: radians(v) }, g)"
          @done="levels.release()"
        />
        <div class="flex items-end">
          <button class="btn" :disabled="facing.value === null && !facing.mixed" @click="set({ facingRad: null })">
            No facing
          </button>
        </div>
      </template>
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
    <button class="btn-quiet -ml-1.5 text-[12.5px]" :aria-expanded="more" @click="more = !more">
      {{ more ? 'Fewer settings' : 'All settings' }}
    </button>
    <fieldset
      v-if="more"
      class="grid grid-cols-2 gap-x-3 gap-y-2 border-t border-dotted border-rule pt-1.5"
      :disabled="locked"
    >
      <NumberField
        label="of the visits pause"
        unit="%"
        :step="1"
        :min="0"
        :max="100"
        :digits="0"
        :value="share.value * 100"
        :mixed="share.mixed"
        @change="(v, g) => set({ pauseShare: v / 100 }, g)"
        @done="levels.release()"
      />
      <NumberField
        label="arrives within"
        unit="m"
        :step="0.05"
        :min="0.05"
        :value="arrival.value ?? 0.3"
        :mixed="arrival.mixed"
        :none="arrival.value === null ? '0.3' : undefined"
        @change="(v, g) => set({ arrivalRadiusM: v }, g)"
        @done="levels.release()"
      />
      <NumberField
        label="looks around from"
        unit="°"
        :step="1"
        :digits="0"
        :value="look.value ? degrees(look.value.fromRad) : 0"
        :mixed="look.mixed"
        :none="look.value ? undefined : 'none'"
        @change="(v, g) => setLook('fromRad', radians(v), g)"
        @done="levels.release()"
      />
      <NumberField
        label="to"
        unit="°"
        :step="1"
        :digits="0"
        :value="look.value ? degrees(look.value.toRad) : 0"
        :mixed="look.mixed"
        :none="look.value ? undefined : 'none'"
        @change="(v, g) => setLook('toRad', radians(v), g)"
        @done="levels.release()"
      />
      <div class="col-span-2 flex flex-wrap gap-2">
        <button class="btn py-0! text-[12.5px]" :disabled="!look.value && !look.mixed" @click="set({ look: null })">
          No look around
        </button>
        <button
          class="btn py-0! text-[12.5px]"
          :disabled="arrival.value === null && !arrival.mixed"
          @click="set({ arrivalRadiusM: null })"
        >
          Usual arrival
        </button>
      </div>
      <label class="block">
        <span class="label">gait to here</span>
        <select
          class="field"
          aria-label="Gait to here"
          :value="gait.mixed ? '…' : (gait.value ?? '')"
          @change="set({ gait: ($event.target as HTMLSelectElement).value || null })"
        >
          <option v-if="gait.mixed" value="…" disabled>differs</option>
          <option value="">as usual</option>
          <option v-for="g in [...new Set([...gaits, ...(gait.value ? [gait.value] : [])])]" :key="g" :value="g">
            {{ g }}
          </option>
        </select>
      </label>
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
      <label v-if="held.some((h) => h.route.curve === 'smooth')" class="row col-span-2 gap-1! text-[13px]">
        <input
          type="checkbox"
          class="accent-pine"
          :checked="sharp.value && !sharp.mixed"
          :indeterminate="sharp.mixed"
          @change="set({ sharp: ($event.target as HTMLInputElement).checked })"
        />
        a corner that stays sharp
      </label>
      <label class="col-span-2 block">
        <span class="label">action, for the game</span>
        <input
          class="field"
          aria-label="Action"
          :value="action.mixed ? '' : action.value"
          :placeholder="action.mixed ? 'differs' : ''"
          @change="set({ action: ($event.target as HTMLInputElement).value })"
        />
      </label>
      <label class="col-span-2 block">
        <span class="label">note to it</span>
        <input
          class="field"
          aria-label="Note to the action"
          :value="note.mixed ? '' : note.value"
          :placeholder="note.mixed ? 'differs' : ''"
          @change="set({ note: ($event.target as HTMLInputElement).value })"
        />
      </label>
      <div v-if="single" class="col-span-2"><TagsField :tags="single.stop.tags" @change="set({ tags: $event })" /></div>
    </fieldset>
    <template v-if="links.length > 0">
      <p class="label mt-1">links</p>
      <ul class="text-[13px]">
        <li
          v-for="l in links.slice(0, 12)"
          :key="l.linkId"
          class="flex justify-between border-t border-dotted border-rule py-px"
        >
          <button class="truncate underline" @click="sheet.choose([l.linkId])">{{ nameOfWaypoint(l.far) }}</button>
          <span class="shrink-0 text-faded">{{ l.twoWay ? 'both ways' : l.out ? 'to it' : 'from it' }}</span>
        </li>
      </ul>
    </template>
    <template #foot>
      <button class="btn" :disabled="locked" @click="levels.perform(movePlaces, { places: settled, word: 'Settle' })">
        Settle{{ stops.length > 1 ? ` ${stops.length}` : '' }}
      </button>
      <ActionMenu label="More" :items="items" :disabled="locked" />
      <button class="btn text-alarm!" :disabled="locked" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
