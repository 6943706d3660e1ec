<script setup lang="ts">
import { bearingOf, fromBearing } from '@tidytrail/core/geometry'
import { movePlaces, setThings } from '@tidytrail/core/level'
import { profilesOfRoute } from '@tidytrail/core/network'
import { computed, ref } from 'vue'
import { metres } from '../../ui/figures'
import NumberField from '../../ui/NumberField.vue'
import TagsField from '../../ui/TagsField.vue'
import ThingFields from '../card/ThingFields.vue'
import type { Stops } from './use-stops'

/** What can be set of chosen stops: pauses, facings, where they are, and all else behind a fold. */
const props = defineProps<{ stops: Stops; network: boolean; locked: boolean }>()
// One object for the life of the card.
const { levels, held, single, routeIds, waypointIds, parts, fields, same, set, setField, floorOf, settled } =
  props.stops
const more = ref(false)
const waypoint = computed(() => (single.value ? levels.doc.waypoints[single.value.stop.waypointId] : undefined))
const above = computed(() => (waypoint.value ? waypoint.value.at[2] - floorOf(waypoint.value.at) : 0))
const lift = computed(() => same((s) => levels.doc.waypoints[s.waypointId].liftM))
const minS = computed(() => same((s) => s.pause.minS))
const maxS = computed(() => same((s) => s.pause.maxS))
const look = computed(() => same((s) => s.look))
const gait = computed(() => same((s) => s.gait))
const smooth = computed(() => held.value.some((h) => h.route.curve === 'smooth'))
const gaits = computed(() => [
  ...new Set([
    ...routeIds.value
      .flatMap((r) => profilesOfRoute(levels.doc, r))
      .flatMap((p) => Object.keys(levels.doc.profiles[p]?.gaits ?? {})),
    ...(gait.value.value ? [gait.value.value] : []),
  ]),
])

/** Sets one end of how long each pauses; the other moves only where it would be overtaken. */
const setLeast = (s: number, gesture?: string) =>
  set(({ pause }) => ({ pause: { minS: s, maxS: Math.max(s, pause.maxS) } }), gesture)
const setMost = (s: number, gesture?: string) =>
  set(({ pause }) => ({ pause: { minS: Math.min(s, pause.minS), maxS: s } }), gesture)
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

function moveTo(values: (thing: object) => object, gesture: string | undefined) {
  if (!single.value || !waypoint.value) return
  const { at } = values(waypoint.value) as { at: number[] }
  levels.perform(movePlaces, { places: { [single.value.stop.waypointId]: at } }, gesture)
}
</script>

<template>
  <fieldset :disabled="locked">
    <div v-if="!network" class="grid grid-cols-2 gap-x-3 gap-y-2">
      <NumberField
        label="pauses at least"
        unit="s"
        :min="0"
        :value="minS.value"
        :mixed="minS.mixed"
        @change="setLeast"
        @done="levels.release()"
      />
      <NumberField
        label="at most"
        unit="s"
        :min="0"
        :value="maxS.value"
        :mixed="maxS.mixed"
        @change="setMost"
        @done="levels.release()"
      />
    </div>
    <ThingFields
      v-if="!network"
      in="routes"
      :things="parts"
      :fields="fields"
      :only="['facingRad']"
      @set="setField"
      @done="levels.release()"
    />
    <ThingFields
      v-if="single && waypoint"
      in="waypoints"
      :things="[{ id: single.stop.waypointId, thing: waypoint }]"
      :only="['at']"
      @set="moveTo"
      @done="levels.release()"
    >
      <p class="mt-1 text-[12.5px] text-faded">
        {{
          Math.abs(above) < 0.005
            ? 'settled on its floor'
            : above > 0
              ? `${metres(above)} above its floor`
              : `${metres(-above)} below its floor`
        }}
      </p>
    </ThingFields>
  </fieldset>
  <button class="btn-quiet -ml-1.5 text-[12.5px]" :aria-expanded="more" @click="more = !more">
    {{ more ? 'Fewer settings' : 'All settings' }}
  </button>
  <fieldset v-if="more" class="border-t border-dotted border-rule pt-1.5" :disabled="locked">
    <ThingFields
      in="routes"
      :things="parts"
      :fields="fields"
      :except="['pause', 'facingRad', ...(smooth ? [] : ['sharp'])]"
      @set="setField"
      @done="levels.release()"
    >
      <div class="mt-2 grid grid-cols-2 gap-x-3 gap-y-2">
        <NumberField
          label="looks around from"
          unit="°"
          :step="1"
          :digits="0"
          :value="look.value ? bearingOf(look.value.fromRad) : 0"
          dial
          :mixed="look.mixed"
          :none="look.value ? undefined : 'none'"
          @change="(v, g) => setLook('fromRad', fromBearing(v), g)"
          @done="levels.release()"
        />
        <NumberField
          label="to"
          unit="°"
          :step="1"
          :digits="0"
          :value="look.value ? bearingOf(look.value.toRad) : 0"
          dial
          :mixed="look.mixed"
          :none="look.value ? undefined : 'none'"
          :clearable="look.value !== null"
          @change="(v, g) => setLook('toRad', fromBearing(v), g)"
          @clear="set({ look: null })"
          @done="levels.release()"
        />
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
            <option v-for="g in gaits" :key="g" :value="g">{{ g }}</option>
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
      </div>
    </ThingFields>
    <TagsField v-if="single" :tags="single.stop.tags" @change="set({ tags: $event })" />
  </fieldset>
</template>
