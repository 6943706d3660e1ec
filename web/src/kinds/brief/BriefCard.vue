<script setup lang="ts">
import {
  briefIdsOf,
  nameOf,
  newStep,
  newWhen,
  removeThings,
  setThings,
  STEP_KINDS,
  stepsOf,
  WHEN_KINDS,
  type Brief,
  type BriefStep,
  type BriefWhen,
} from '@tidytrail/core/level'
import { IconArrowUp, IconTrash } from '@tabler/icons-vue'
import { computed, ref, watch } from 'vue'
import { whenLetter } from '../../map/layers/brief-tags'
import { useCastStore } from '../../stores/cast'
import { randomId } from '../../stores/random-id'
import IconButton from '../../ui/IconButton.vue'
import { idsByName } from '../card/by-name'
import CardFrame from '../card/CardFrame.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'
import BlankList from './BlankList.vue'
import NewSignal from './NewSignal.vue'
import { PRESETS } from './presets'
import { whenSentence } from './sentences'
import StepLines from './StepLines.vue'
import { whenFields } from './when-fields'

/** A brief: its steps as sentences in the order they happen, one of them open to be changed; standing sentences beside them. */
const props = defineProps<{ id: string }>()
const { levels, sheet, thing: brief, things, set, setField, release } = useThing('briefs', () => props.id)
const cast = useCastStore()
const open = ref<string>()
watch(
  () => props.id,
  () => (open.value = undefined),
)

const steps = computed(() => stepsOf(brief.value))
const users = computed(() =>
  Object.keys(levels.doc.spawners).filter((s) => briefIdsOf(levels.doc, levels.doc.spawners[s]).includes(props.id)),
)
const squads = computed(() => Object.keys(levels.doc.squads).filter((s) => levels.doc.squads[s].briefId === props.id))
/** Spawners that could be told by it too. */
const others = computed(() => idsByName(levels.doc, 'spawners').filter((s) => !users.value.includes(s)))
/** Gaits somebody who is told by it has; all there are while nobody is. */
const gaits = computed(() => {
  const { profiles, spawners } = levels.doc
  const told = new Set(users.value.map((s) => spawners[s].profileId ?? ''))
  const bodies = Object.entries(profiles).filter(([id]) => told.size === 0 || told.has(id))
  return [...new Set(bodies.flatMap(([, p]) => Object.keys(p.gaits)))]
})

const change = (values: Partial<Brief>, word: string, gesture?: string) =>
  levels.perform(setThings, { things: [{ in: 'briefs', id: props.id, set: values }], word }, gesture)
function setStep(id: string, values: object, gesture?: string): void {
  const { steps } = brief.value
  change({ steps: { ...steps, [id]: { ...steps[id], ...values } as BriefStep } }, 'Change', gesture)
}
function add(kind: string, whenId: string | null): void {
  const id = randomId('steps')
  const { steps, order } = brief.value
  // After the one that is open, or at the end.
  const after = open.value && steps[open.value]?.whenId === whenId ? order.indexOf(open.value) + 1 : order.length
  const next = newStep(kind as BriefStep['kind'], { whenId } as never)
  change({ steps: { ...steps, [id]: next }, order: [...order.slice(0, after), id, ...order.slice(after)] }, 'Add to')
  open.value = id
}
function move(id: string, by: 1 | -1): void {
  const siblings = stepsOf(brief.value, brief.value.steps[id].whenId)
  const other = siblings[siblings.indexOf(id) + by]
  if (!other) return
  const order = brief.value.order.map((s) => (s === id ? other : s === other ? id : s))
  change({ order }, 'Change')
}
function drop(id: string): void {
  const { [id]: _gone, ...left } = brief.value.steps
  change({ steps: left, order: brief.value.order.filter((s) => s !== id) }, 'Take from')
}
function addWhen(kind: string): void {
  const id = randomId('steps')
  change({ whens: [...brief.value.whens, newWhen(kind as BriefWhen['kind'], id)] }, 'Add to')
  open.value = id
}
const setWhen = (id: string, values: object, gesture?: string) =>
  change(
    { whens: brief.value.whens.map((w) => (w.id === id ? ({ ...w, ...values } as BriefWhen) : w)) },
    'Change',
    gesture,
  )
function dropWhen(id: string): void {
  const gone = new Set(stepsOf(brief.value, id))
  const steps = Object.fromEntries(Object.entries(brief.value.steps).filter(([s]) => !gone.has(s)))
  change(
    {
      whens: brief.value.whens.filter((w) => w.id !== id),
      steps,
      order: brief.value.order.filter((s) => !gone.has(s)),
    },
    'Take from',
  )
}
function raise(k: number): void {
  const whens = [...brief.value.whens]
  ;[whens[k - 1], whens[k]] = [whens[k], whens[k - 1]]
  change({ whens }, 'Change')
}
function begin(name: string): void {
  const preset = PRESETS.find((p) => p.name === name)
  if (preset)
    change(
      preset.make(() => randomId('steps')),
      'Write',
    )
}
function chosen(event: Event, then: (value: string) => void): void {
  const select = event.target as HTMLSelectElement
  if (select.value) then(select.value)
  select.value = ''
}
const tell = (spawnerId: string) =>
  levels.perform(setThings, { things: [{ in: 'spawners', id: spawnerId, set: { briefId: props.id } }], word: 'Tell' })
function removeBrief(): void {
  levels.perform(removeThings, { ids: [props.id] })
  sheet.choose([])
}
</script>

<template>
  <CardFrame kind="brief" :name="brief.name" tone="text-ink" :locked="brief.locked" @rename="set({ name: $event })">
    <fieldset :disabled="brief.locked">
      <template v-if="steps.length === 0">
        <p class="text-faded">Nothing is said yet. Add a first step, or begin with one of these.</p>
        <p class="mt-1 flex flex-wrap gap-1">
          <button v-for="p in PRESETS" :key="p.name" class="btn" :title="p.says" @click="begin(p.name)">
            {{ p.name }}
          </button>
        </p>
      </template>
      <StepLines
        v-model:open="open"
        :brief-id="id"
        :when-id="null"
        label="Steps"
        :gaits="gaits"
        numbered
        @set="setStep"
        @move="move"
        @drop="drop"
      />
      <label class="mt-2 block">
        <span class="label">add a step</span>
        <select class="field" aria-label="add a step" @change="chosen($event, (kind) => add(kind, null))">
          <option value="">choose what …</option>
          <option v-for="s in STEP_KINDS" :key="s.kind" :value="s.kind">{{ s.word }}</option>
        </select>
      </label>
      <h3 class="mt-3 border-t border-rule pt-2 text-[15px]">Whatever it is doing</h3>
      <p v-if="brief.whens.length === 0" class="text-faded">Nothing interrupts it.</p>
      <section
        v-for="(when, w) in brief.whens"
        :key="when.id"
        class="mt-1.5 border-l-2 border-double border-ink pl-2 text-[13.5px]"
        :aria-label="`Standing sentence ${w + 1}`"
        @mouseenter="cast.pointed = when.id"
        @mouseleave="cast.pointed = undefined"
      >
        <div class="flex items-start gap-1.5">
          <b class="shrink-0">{{ whenLetter(w) }}</b>
          <button
            type="button"
            class="min-w-0 flex-1 text-left leading-snug underline decoration-faded decoration-dotted underline-offset-4 hover:decoration-ink"
            :aria-expanded="open === when.id"
            @click="open = open === when.id ? undefined : when.id"
          >
            {{ whenSentence(levels.doc, when) }}
          </button>
        </div>
        <div v-if="open === when.id" class="mb-1 border-l-4 border-pine bg-tint px-2 py-1.5">
          <ThingFields
            in="briefs"
            :things="[{ id: when.id, thing: when }]"
            :fields="whenFields(when)"
            @set="(values, gesture) => setWhen(when.id, values(when), gesture)"
            @done="levels.release()"
          />
          <NewSignal v-if="when.kind === 'signal'" @made="setWhen(when.id, { signalId: $event })" />
          <div class="mt-2 flex gap-1">
            <IconButton label="Before the one above" :icon="IconArrowUp" :disabled="w === 0" @click="raise(w)" />
            <IconButton label="Take this sentence away" :icon="IconTrash" @click="dropWhen(when.id)" />
          </div>
        </div>
        <StepLines
          v-model:open="open"
          :brief-id="id"
          :when-id="when.id"
          :label="`Steps of sentence ${w + 1}`"
          :gaits="gaits"
          @set="setStep"
          @move="move"
          @drop="drop"
        />
        <select
          class="field mt-1"
          :aria-label="`add a step to sentence ${w + 1}`"
          @change="chosen($event, (kind) => add(kind, when.id))"
        >
          <option value="">then …</option>
          <option v-for="s in STEP_KINDS" :key="s.kind" :value="s.kind">{{ s.word }}</option>
        </select>
      </section>
      <label class="mt-2 block">
        <span class="label">add a standing sentence</span>
        <select class="field" aria-label="add a standing sentence" @change="chosen($event, addWhen)">
          <option value="">choose when …</option>
          <option v-for="w in WHEN_KINDS" :key="w.kind" :value="w.kind">{{ w.word }}</option>
        </select>
      </label>
      <BlankList :id="id" />
      <ThingFields in="briefs" :things="things" @set="setField" @done="release" />
    </fieldset>
    <h3 class="mt-3 border-t border-rule pt-2 text-[15px]">Told to</h3>
    <p v-if="users.length + squads.length === 0" class="text-faded">Nobody yet. Pick somebody here, or it on a card.</p>
    <p v-else class="flex flex-wrap gap-1">
      <button v-for="u in [...squads, ...users]" :key="u" class="btn" @click="sheet.choose([u])">
        {{ nameOf(levels.doc, u) }}
      </button>
    </p>
    <label v-if="others.length > 0 && !brief.locked" class="mt-1 block">
      <span class="label">tell somebody else</span>
      <select class="field" aria-label="tell somebody else" @change="chosen($event, tell)">
        <option value="">choose a spawner …</option>
        <option v-for="o in others" :key="o" :value="o">{{ nameOf(levels.doc, o) }}</option>
      </select>
    </label>
    <template #foot><button class="btn text-alarm!" @click="removeBrief">Delete</button></template>
  </CardFrame>
</template>
