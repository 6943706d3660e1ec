<script setup lang="ts">
import { stepsOf } from '@tidytrail/core/level'
import { computed } from 'vue'
import { useCastStore } from '../../stores/cast'
import { useLevelStore } from '../../stores/level'
import { stepSentence } from './sentences'
import StepEditor from './StepEditor.vue'

/** The steps of a brief, or of one of its standing sentences, a sentence a line; the one that is open can be changed. */
const props = defineProps<{
  briefId: string
  whenId: string | null
  label: string
  gaits: readonly string[]
  numbered?: boolean
}>()
const open = defineModel<string | undefined>('open')
const emit = defineEmits<{
  set: [id: string, values: object, gesture?: string]
  move: [id: string, by: 1 | -1]
  drop: [id: string]
}>()
const levels = useLevelStore()
const cast = useCastStore()
const brief = computed(() => levels.doc.briefs[props.briefId])
const steps = computed(() => stepsOf(brief.value, props.whenId).map((id) => ({ id, step: brief.value.steps[id] })))
</script>

<template>
  <ol :aria-label="label" class="text-[13.5px]">
    <li
      v-for="({ id, step }, k) in steps"
      :key="id"
      :class="numbered ? 'border-b border-rule last:border-b-0' : ''"
      @mouseenter="cast.pointed = id"
      @mouseleave="cast.pointed = undefined"
    >
      <div class="flex items-start gap-1.5" :class="numbered ? 'py-1' : 'py-0.5 pl-3'">
        <b v-if="numbered" class="w-4 shrink-0 text-right">{{ k + 1 }}</b>
        <button
          type="button"
          class="min-w-0 flex-1 text-left leading-snug underline decoration-faded decoration-dotted underline-offset-4 hover:decoration-ink"
          :aria-expanded="open === id"
          @click="open = open === id ? undefined : id"
        >
          {{ stepSentence(levels.doc, step, brief) }}
        </button>
      </div>
      <StepEditor
        v-if="open === id"
        :brief-id="briefId"
        :step-id="id"
        :gaits="gaits"
        :first="k === 0"
        :last="k === steps.length - 1"
        @set="(values: object, gesture?: string) => emit('set', id, values, gesture)"
        @move="emit('move', id, $event)"
        @drop="emit('drop', id)"
      />
    </li>
  </ol>
</template>
