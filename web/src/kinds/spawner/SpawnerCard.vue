<script setup lang="ts">
import { addAndSet, assignRoute, briefIdOf, briefSchema, factionIdOf } from '@tidytrail/core/level'
import { routesOfSpawner } from '@tidytrail/core/network'
import { computed } from 'vue'
import { randomId } from '../../stores/random-id'
import CardFrame from '../card/CardFrame.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'
import { useCastStore } from '../../stores/cast'
import FillList from './FillList.vue'
import MixList from './MixList.vue'
import WhyNobody from './WhyNobody.vue'
import SpotList from './SpotList.vue'
import StreamList from './StreamList.vue'
import { spawnWords } from './spawn-words'
import { sentencesOf } from '../brief/sentences'

const props = defineProps<{ id: string }>()
const { levels, sheet, thing: spawner, things, set, setField, release, remove } = useThing('spawners', () => props.id)
const cast = useCastStore()
const routeId = computed(() => routesOfSpawner(levels.doc, props.id)[0] ?? '')
const route = computed(() => levels.doc.routes[routeId.value])
const routes = computed(() => Object.entries(levels.doc.routes).filter(([, r]) => r.kind !== 'network'))
const profile = computed(() => levels.doc.profiles[spawner.value.profileId ?? ''])
const subjects = computed(() => [props.id, ...(briefId.value ? [briefId.value] : [])])

const streams = computed(() => spawner.value.where === 'lanes')
const briefId = computed(() => briefIdOf(levels.doc, spawner.value))
const brief = computed(() => levels.doc.briefs[briefId.value ?? ''])
const sentences = computed(() => sentencesOf(levels.doc, briefId.value, spawner.value.fills))
const side = computed(() => factionIdOf(levels.doc, spawner.value))
const WHERE = [
  'perH',
  'headways',
  'warm',
  'withinM',
  'pick',
  'zoneId',
  'routeId',
  'along',
  'offsetM',
  'apartM',
  'files',
  'facingRad',
  'beyondM',
  'unseen',
]
const WHEN = [
  'count',
  'alive',
  'atOnce',
  'mostAlive',
  'begins',
  'triggerZoneId',
  'triggerFactionId',
  'triggerSpawnerId',
  'firstAfterS',
  'everyS',
  'spreadS',
  'untilS',
]
/** When they come, in a sentence. */
const whenWords = computed(() => spawnWords(levels.doc, spawner.value))
/** Why nobody can stand at one of its places. */
const fault = computed(() => {
  const places = cast.facts.spawners[props.id]?.places ?? []
  const k = places.findIndex((p) => p.fault)
  return k < 0 ? '' : `${places.length > 1 ? `Place ${k + 1}` : 'Its place'}: ${places[k].fault}.`
})

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
      <ThingFields
        in="spawners"
        :things="things"
        :only="['profileId', 'squadId', 'factionId', 'briefId']"
        @set="setField"
        @done="release"
      />
      <p v-if="!side && Object.keys(levels.doc.factions).length > 0" class="mt-1 text-[13px] text-ochre">
        On nobody’s side until one is picked: nobody is hostile to them.
      </p>
      <label v-if="!streams" class="mt-1 block"
        ><span class="label">follows</span>
        <select class="field" :value="routeId" @change="assign(($event.target as HTMLSelectElement).value)">
          <option value="">no route</option>
          <option v-for="[rid, r] in routes" :key="rid" :value="rid">{{ r.name }}</option>
        </select>
      </label>
      <FillList v-if="briefId && brief" :id="id" :brief-id="briefId" />
      <h3 class="mt-3 border-t border-rule pt-2 text-[15px]">Where</h3>
      <ThingFields in="spawners" :things="things" :only="['where']" @set="setField" @done="release" />
      <ThingFields in="spawners" :things="things" :only="WHERE" @set="setField" @done="release" />
      <SpotList v-if="spawner.where === 'spots'" :id="id" />
      <StreamList v-if="streams" :id="id" />
      <p v-if="fault" class="mt-1 text-[13px] text-alarm">{{ fault }}</p>
      <h3 class="mt-3 border-t border-rule pt-2 text-[15px]">How many and when</h3>
      <ThingFields in="spawners" :things="things" :only="WHEN" @set="setField" @done="release" />
      <p class="mt-1 leading-relaxed">{{ whenWords }}</p>
      <h3 class="mt-3 border-t border-rule pt-2 text-[15px]">Who</h3>
      <MixList :id="id" />
      <ThingFields
        in="spawners"
        :things="things"
        :only="['standIn', 'calls', 'note', 'tags']"
        @set="setField"
        @done="release"
      />
    </fieldset>
    <h3 class="mt-3 border-t border-rule pt-2 text-[15px]">Brief</h3>
    <p v-if="!profile" class="text-faded">Pick a profile: without a body nobody appears.</p>
    <template v-else>
      <p v-if="sentences.length > 0" class="leading-relaxed">{{ sentences.join(' ') }}</p>
      <p v-else-if="streams">It drives along its lane, and at each fork where it is bound for.</p>
      <p v-else class="text-faded">Nothing to do. Pick a route above, drop one on the spawner, or write a brief.</p>
    </template>
    <WhyNobody :id="id" />
    <template #foot>
      <button v-if="brief" class="btn" @click="sheet.choose([briefId!])">Open brief</button>
      <button v-else class="btn" @click="writeBrief">Write a brief</button>
      <button v-if="route" class="btn" @click="sheet.choose([routeId])">
        Open {{ route.name.length > 16 ? 'route' : route.name }}
      </button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
