<script setup lang="ts">
import { addAndSet, assignRoute, briefSchema } from '@tidytrail/core/level'
import { routesOfSpawner } from '@tidytrail/core/network'
import { computed } from 'vue'
import { randomId } from '../../stores/random-id'
import CardFrame from '../card/CardFrame.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'
import { seconds } from '../../ui/figures'
import { sentencesOf } from '../brief/sentences'

const props = defineProps<{ id: string }>()
const { levels, sheet, thing: spawner, things, set, setField, release, remove } = useThing('spawners', () => props.id)
const routeId = computed(() => routesOfSpawner(levels.doc, props.id)[0] ?? '')
const route = computed(() => levels.doc.routes[routeId.value])
const routes = computed(() => Object.entries(levels.doc.routes).filter(([, r]) => r.kind !== 'network'))
const profile = computed(() => levels.doc.profiles[spawner.value.profileId ?? ''])
const subjects = computed(() => [props.id, ...(spawner.value.briefId ? [spawner.value.briefId] : [])])

const brief = computed(() => levels.doc.briefs[spawner.value.briefId ?? ''])
const sentences = computed(() => sentencesOf(levels.doc, spawner.value.briefId))

/** A brief of its own with nothing in it yet, open to be written. */
function writeBrief(): void {
  const id = randomId('briefs')
  const name = `Brief of ${spawner.value.name}`
  levels.perform(addAndSet, {
    add: [{ in: 'briefs', id, thing: briefSchema.parse({ name, steps: {}, order: [] }) }],
    set: [{ in: 'spawners', id: props.id, set: { briefId: id } }],
    label: `Write a brief for ${spawner.value.name}`,
  })
  sheet.choose([id])
}

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
    <p v-if="!profile" class="text-faded">Pick a profile: without a body nobody appears.</p>
    <template v-else>
      <p v-if="sentences.length > 0" class="leading-relaxed">{{ sentences.join(' ') }}</p>
      <p v-else class="text-faded">Nothing to do. Pick a route above, drop one on the spawner, or write a brief.</p>
      <p class="leading-relaxed">
        {{ spawner.count > 1 ? `${spawner.count} agents, the first` : 'It appears' }} after
        {{ seconds(spawner.firstAfterS) }}{{ spawner.count > 1 ? `, then one every ${seconds(spawner.everyS)}` : '' }}.
      </p>
    </template>
    <template #foot>
      <button v-if="brief" class="btn" @click="sheet.choose([spawner.briefId!])">Open brief</button>
      <button v-else class="btn" @click="writeBrief">Write a brief</button>
      <button v-if="route" class="btn" @click="sheet.choose([routeId])">
        Open {{ route.name.length > 16 ? 'route' : route.name }}
      </button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
