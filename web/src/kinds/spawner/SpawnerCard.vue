<script setup lang="ts">
import { degrees, radians } from '@tidytrail/core/geometry'
import { assignRoute, changeThings, removeThings, type Spawner } from '@tidytrail/core/level'
import { routesOfSpawner } from '@tidytrail/core/network'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { randomId } from '../../stores/random-id'
import { useSheetStore } from '../../stores/sheet'
import CardFrame from '../../sheet/cards/CardFrame.vue'
import NumberField from '../../ui/NumberField.vue'
import { seconds, TRAVEL_WORDS } from '../../ui/figures'

const props = defineProps<{ id: string }>()
const levels = useLevelStore()
const sheet = useSheetStore()
const spawner = computed(() => levels.doc.spawners[props.id])
const routeId = computed(() => routesOfSpawner(levels.doc, props.id)[0] ?? '')
const route = computed(() => levels.doc.routes[routeId.value])
const routes = computed(() => Object.entries(levels.doc.routes).filter(([, r]) => r.kind !== 'network'))
const profile = computed(() => levels.doc.profiles[spawner.value.profileId ?? ''])
const subjects = computed(() => [props.id, ...(spawner.value.briefId ? [spawner.value.briefId] : [])])

const set = (values: Partial<Spawner>, gesture?: string) =>
  levels.perform(changeThings, { in: 'spawners', changes: { [props.id]: values } }, gesture)
const assign = (value: string) =>
  levels.perform(assignRoute, {
    spawnerId: props.id,
    routeId: value || null,
    briefId: randomId('briefs'),
    stepId: randomId('steps'),
  })
const valueOf = (event: Event) => (event.target as HTMLSelectElement).value

function remove() {
  levels.perform(removeThings, { ids: [props.id] })
  sheet.choose([])
}
</script>

<template>
  <CardFrame
    kind="spawner"
    :name="spawner.name"
    tone="text-pine"
    :locked="spawner.locked"
    :subjects="subjects"
    @rename="set({ name: $event })"
  >
    <fieldset class="grid grid-cols-2 gap-x-3 gap-y-2" :disabled="spawner.locked">
      <label class="col-span-2 block"
        ><span class="label">profile</span>
        <select class="field" :value="spawner.profileId ?? ''" @change="set({ profileId: valueOf($event) || null })">
          <option value="">none chosen</option>
          <option v-for="(p, pid) in levels.doc.profiles" :key="pid" :value="pid">{{ p.name }}</option>
        </select>
      </label>
      <label class="col-span-2 block"
        ><span class="label">follows</span>
        <select class="field" :value="routeId" @change="assign(valueOf($event))">
          <option value="">no route</option>
          <option v-for="[rid, r] in routes" :key="rid" :value="rid">{{ r.name }}</option>
        </select>
      </label>
      <label v-if="Object.keys(levels.doc.factions).length > 0" class="col-span-2 block"
        ><span class="label">faction</span>
        <select class="field" :value="spawner.factionId ?? ''" @change="set({ factionId: valueOf($event) || null })">
          <option value="">none</option>
          <option v-for="(f, fid) in levels.doc.factions" :key="fid" :value="fid">{{ f.name }}</option>
        </select>
      </label>
      <NumberField
        label="how many"
        :step="0.05"
        :digits="0"
        :min="1"
        :max="5000"
        :value="spawner.count"
        @change="(v, g) => set({ count: Math.round(v) }, g)"
        @done="levels.release()"
      />
      <NumberField
        label="first after"
        unit="s"
        :min="0"
        :value="spawner.firstAfterS"
        @change="(v, g) => set({ firstAfterS: v }, g)"
        @done="levels.release()"
      />
      <NumberField
        label="then every"
        unit="s"
        :min="0"
        :value="spawner.everyS"
        @change="(v, g) => set({ everyS: v }, g)"
        @done="levels.release()"
      />
      <NumberField
        label="faces"
        unit="°"
        :step="1"
        :digits="0"
        :value="degrees(spawner.facingRad)"
        @change="(v, g) => set({ facingRad: radians(v) }, g)"
        @done="levels.release()"
      />
    </fieldset>
    <h3 class="mt-3 border-t border-rule pt-2 text-[15px]">Brief</h3>
    <p v-if="route && profile" class="leading-relaxed">
      Follow <b>{{ route.name }}</b>, <b>{{ TRAVEL_WORDS[route.travel].toLowerCase() }}</b>, at a
      <b>{{ profile.gait }}</b>. Pause at its stops.
      {{ spawner.count > 1 ? `${spawner.count} agents, the first` : 'It appears' }} after
      {{ seconds(spawner.firstAfterS) }}{{ spawner.count > 1 ? `, then one every ${seconds(spawner.everyS)}` : '' }}.
    </p>
    <p v-else-if="!profile" class="text-faded">Pick a profile: without a body nobody appears.</p>
    <p v-else class="text-faded">Nothing to do. Pick a route above, or drop one on the spawner.</p>
    <template #foot>
      <button v-if="route" class="btn" @click="sheet.choose([routeId])">
        Open {{ route.name.length > 16 ? 'route' : route.name }}
      </button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
