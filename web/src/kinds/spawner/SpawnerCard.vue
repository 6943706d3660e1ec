<script setup lang="ts">
import { assignRoute } from '@tidytrail/core/level'
import { routesOfSpawner } from '@tidytrail/core/network'
import { computed } from 'vue'
import { randomId } from '../../stores/random-id'
import CardFrame from '../card/CardFrame.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'
import { seconds, TRAVEL_WORDS } from '../../ui/figures'

const props = defineProps<{ id: string }>()
const { levels, sheet, thing: spawner, things, set, setField, release, remove } = useThing('spawners', () => props.id)
const routeId = computed(() => routesOfSpawner(levels.doc, props.id)[0] ?? '')
const route = computed(() => levels.doc.routes[routeId.value])
const routes = computed(() => Object.entries(levels.doc.routes).filter(([, r]) => r.kind !== 'network'))
const profile = computed(() => levels.doc.profiles[spawner.value.profileId ?? ''])
const subjects = computed(() => [props.id, ...(spawner.value.briefId ? [spawner.value.briefId] : [])])

const assign = (value: string) =>
  levels.perform(assignRoute, {
    spawnerId: props.id,
    routeId: value || null,
    briefId: randomId('briefs'),
    stepId: randomId('steps'),
  })
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
    <fieldset :disabled="spawner.locked">
      <ThingFields in="spawners" :things="things" :only="['profileId', 'factionId']" @set="setField" @done="release" />
      <label class="mt-1 block"
        ><span class="label">follows</span>
        <select class="field" :value="routeId" @change="assign(($event.target as HTMLSelectElement).value)">
          <option value="">no route</option>
          <option v-for="[rid, r] in routes" :key="rid" :value="rid">{{ r.name }}</option>
        </select>
      </label>
      <ThingFields
        in="spawners"
        :things="things"
        :except="['profileId', 'factionId', 'note', 'tags']"
        @set="setField"
        @done="release"
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
