<script setup lang="ts">
import { partFieldsOf, type BriefStep } from '@tidytrail/core/level'
import { IconArrowDown, IconArrowUp, IconTrash } from '@tabler/icons-vue'
import { computed } from 'vue'
import IconButton from '../../ui/IconButton.vue'
import { useLevelStore } from '../../stores/level'
import ThingFields from '../card/ThingFields.vue'
import NewSignal from './NewSignal.vue'
import OneOf from './OneOf.vue'

/** What is chosen in one step of a brief. */
const props = defineProps<{
  briefId: string
  stepId: string
  /** Gaits of those who are told by it. */
  gaits: readonly string[]
  first: boolean
  last: boolean
}>()
const emit = defineEmits<{ set: [values: object, gesture?: string]; move: [by: 1 | -1]; drop: [] }>()
const levels = useLevelStore()
const brief = computed(() => levels.doc.briefs[props.briefId])
const step = computed(() => brief.value.steps[props.stepId])
const fields = computed(() => partFieldsOf('briefs', brief.value, props.stepId).fields)
const gait = computed(() => ('gait' in step.value ? step.value.gait : null))
const valueOf = (event: Event) => (event.target as HTMLSelectElement).value
/** What a step may be one of several of. */
const several = computed(() => {
  if (step.value.kind === 'follow-route') return { key: 'routeId', in: 'routes', word: 'route' } as const
  if (step.value.kind === 'wander') return { key: 'zoneId', in: 'zones', word: 'zone' } as const
  return undefined
})
/** The blanks of the brief that could be filled in for what this step is about. */
const blanksFor = computed(() => {
  const { blanks } = brief.value
  const kind = 'routeId' in step.value ? 'route' : 'zoneId' in step.value ? 'zone' : undefined
  const about = kind ? blanks.filter((b) => b.kind === kind) : []
  const paces = 'gait' in step.value ? blanks.filter((b) => b.kind === 'gait') : []
  return [
    ...(about.length > 0
      ? [{ key: 'blankId' as const, label: `which ${kind}`, value: step.value.blankId, options: about }]
      : []),
    ...(paces.length > 0
      ? [{ key: 'gaitBlankId' as const, label: 'which gait', value: step.value.gaitBlankId, options: paces }]
      : []),
  ]
})
const asStep = (values: object) => values as BriefStep
</script>

<template>
  <div class="mb-2 border-l-4 border-pine bg-tint px-2 py-1.5">
    <ThingFields
      in="briefs"
      :things="[{ id: stepId, thing: step }]"
      :fields="fields"
      @set="(values, gesture) => emit('set', asStep(values(step)), gesture)"
      @done="levels.release()"
    >
      <OneOf
        v-if="several"
        :of="several"
        :step="step as never"
        @set="(values: object, gesture?: string) => emit('set', values, gesture)"
      />
      <NewSignal v-if="'signalId' in step" @made="emit('set', { signalId: $event })" />
      <label v-for="b in blanksFor" :key="b.key" class="mt-1 block">
        <span class="label">{{ b.label }}</span>
        <select
          class="field"
          :aria-label="b.label"
          :value="b.value ?? ''"
          @change="emit('set', { [b.key]: valueOf($event) || null })"
        >
          <option value="">as chosen here</option>
          <option v-for="o in b.options" :key="o.id" :value="o.id">each spawner’s “{{ o.name }}”</option>
        </select>
      </label>
      <label v-if="'gait' in step" class="mt-1 block">
        <span class="label">gait</span>
        <select
          class="field"
          aria-label="gait"
          :value="gait ?? ''"
          @change="emit('set', { gait: valueOf($event) || null })"
        >
          <option value="">its usual one</option>
          <option v-for="g in gaits" :key="g" :value="g">{{ g }}</option>
          <option v-if="gait && !gaits.includes(gait)" :value="gait">{{ gait }} (nobody has it)</option>
        </select>
      </label>
    </ThingFields>
    <div class="mt-2 flex gap-1">
      <IconButton label="Earlier" :icon="IconArrowUp" :disabled="first" @click="emit('move', -1)" />
      <IconButton label="Later" :icon="IconArrowDown" :disabled="last" @click="emit('move', 1)" />
      <IconButton label="Take this step away" :icon="IconTrash" @click="emit('drop')" />
    </div>
  </div>
</template>
