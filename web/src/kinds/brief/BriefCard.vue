<script setup lang="ts">
import { newStep, partFieldsOf, setThings, STEP_KINDS, type Brief, type BriefStep } from '@tidytrail/core/level'
import { IconArrowDown, IconArrowUp, IconTrash } from '@tabler/icons-vue'
import { computed, ref, watch } from 'vue'
import { randomId } from '../../stores/random-id'
import IconButton from '../../ui/IconButton.vue'
import CardFrame from '../card/CardFrame.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'
import { stepSentence } from './sentences'

/** A brief: its steps as sentences in the order they happen, one of them open to be changed. */
const props = defineProps<{ id: string }>()
const { levels, sheet, thing: brief, things, set, setField, release, remove } = useThing('briefs', () => props.id)
const open = ref<string>()
watch(
  () => props.id,
  () => (open.value = undefined),
)

const steps = computed(() => brief.value.order.map((id) => ({ id, step: brief.value.steps[id] })))
const fieldsOf = (stepId: string) => partFieldsOf('briefs', brief.value, stepId)
const users = computed(() => Object.entries(levels.doc.spawners).filter(([, s]) => s.briefId === props.id))
/** Gaits somebody who is told by it has; all there are while nobody is. */
const gaits = computed(() => {
  const { profiles } = levels.doc
  const told = new Set(users.value.map(([, s]) => s.profileId ?? ''))
  const bodies = Object.entries(profiles).filter(([id]) => told.size === 0 || told.has(id))
  return [...new Set(bodies.flatMap(([, p]) => Object.keys(p.gaits)))]
})
const gaitOf = (step: BriefStep) => ('gait' in step ? step.gait : null)

const change = (values: Partial<Brief>, word: string, gesture?: string) =>
  levels.perform(setThings, { things: [{ in: 'briefs', id: props.id, set: values }], word }, gesture)
function setStep(id: string, values: object, gesture?: string): void {
  const { steps } = brief.value
  change({ steps: { ...steps, [id]: { ...steps[id], ...values } as BriefStep } }, 'Change', gesture)
}
function add(kind: string): void {
  const id = randomId('steps')
  const { steps, order } = brief.value
  // After the one that is open, or at the end.
  const at = open.value && order.includes(open.value) ? order.indexOf(open.value) + 1 : order.length
  const next = newStep(kind as BriefStep['kind'])
  change({ steps: { ...steps, [id]: next }, order: [...order.slice(0, at), id, ...order.slice(at)] }, 'Add to')
  open.value = id
}
function move(id: string, by: 1 | -1): void {
  const order = [...brief.value.order]
  const at = order.indexOf(id)
  if (at + by < 0 || at + by >= order.length) return
  ;[order[at], order[at + by]] = [order[at + by], order[at]]
  change({ order }, 'Change')
}
function drop(id: string): void {
  const { [id]: _gone, ...left } = brief.value.steps
  change({ steps: left, order: brief.value.order.filter((s) => s !== id) }, 'Take from')
}
const valueOf = (event: Event) => (event.target as HTMLSelectElement).value
function addChosen(event: Event): void {
  const select = event.target as HTMLSelectElement
  if (select.value) add(select.value)
  select.value = ''
}
</script>

<template>
  <CardFrame kind="brief" :name="brief.name" tone="text-ink" :locked="brief.locked" @rename="set({ name: $event })">
    <fieldset :disabled="brief.locked">
      <p v-if="steps.length === 0" class="text-faded">Nothing is said yet. Add a first step.</p>
      <ol aria-label="Steps" class="text-[13.5px]">
        <li v-for="({ id: stepId, step }, k) in steps" :key="stepId" class="border-b border-rule last:border-b-0">
          <div class="flex items-start gap-1.5 py-1">
            <b class="w-4 shrink-0 text-right">{{ k + 1 }}</b>
            <button
              type="button"
              class="min-w-0 flex-1 text-left leading-snug hover:underline"
              :aria-expanded="open === stepId"
              @click="open = open === stepId ? undefined : stepId"
            >
              {{ stepSentence(levels.doc, step) }}
            </button>
          </div>
          <div v-if="open === stepId" class="mb-2 border-l-4 border-pine bg-tint px-2 py-1.5">
            <ThingFields
              in="briefs"
              :things="[{ id: stepId, thing: step }]"
              :fields="fieldsOf(stepId).fields"
              @set="(values, gesture) => setStep(stepId, values(step), gesture)"
              @done="levels.release()"
            >
              <label v-if="'gait' in step" class="mt-1 block">
                <span class="label">gait</span>
                <select
                  class="field"
                  aria-label="gait"
                  :value="gaitOf(step) ?? ''"
                  @change="setStep(stepId, { gait: valueOf($event) || null })"
                >
                  <option value="">its usual one</option>
                  <option v-for="g in gaits" :key="g" :value="g">{{ g }}</option>
                  <option v-if="gaitOf(step) && !gaits.includes(gaitOf(step)!)" :value="gaitOf(step)">
                    {{ gaitOf(step) }} (nobody has it)
                  </option>
                </select>
              </label>
            </ThingFields>
            <div class="mt-2 flex gap-1">
              <IconButton label="Earlier" :icon="IconArrowUp" :disabled="k === 0" @click="move(stepId, -1)" />
              <IconButton
                label="Later"
                :icon="IconArrowDown"
                :disabled="k === steps.length - 1"
                @click="move(stepId, 1)"
              />
              <IconButton label="Take this step away" :icon="IconTrash" @click="drop(stepId)" />
            </div>
          </div>
        </li>
      </ol>
      <label class="mt-2 block">
        <span class="label">add a step</span>
        <select class="field" aria-label="add a step" @change="addChosen">
          <option value="">choose what …</option>
          <option v-for="s in STEP_KINDS" :key="s.kind" :value="s.kind">{{ s.word }}</option>
        </select>
      </label>
      <ThingFields in="briefs" :things="things" @set="setField" @done="release" />
    </fieldset>
    <h3 class="mt-3 border-t border-rule pt-2 text-[15px]">Told to</h3>
    <p v-if="users.length === 0" class="text-faded">Nobody yet. Pick it on a spawner’s card.</p>
    <p v-else class="flex flex-wrap gap-1">
      <button v-for="[sid, s] in users" :key="sid" class="btn" @click="sheet.choose([sid])">{{ s.name }}</button>
    </p>
    <template #foot><button class="btn text-alarm!" @click="remove">Delete</button></template>
  </CardFrame>
</template>
