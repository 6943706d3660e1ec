<script setup lang="ts">
import { nameOf, type Collection } from '@tidytrail/core/level'
import { IconTrash } from '@tabler/icons-vue'
import { computed } from 'vue'
import IconButton from '../../ui/IconButton.vue'
import { idsByName } from '../card/by-name'
import NumberField from '../../ui/NumberField.vue'
import { useLevelStore } from '../../stores/level'

/** What else a step may be about, by weight: one of several routes, or zones. */
type Other = { readonly weight: number } & Readonly<Record<string, unknown>>
const props = defineProps<{
  of: { readonly key: string; readonly in: Collection; readonly word: string }
  step: { readonly weight: number; readonly others: readonly Other[] }
}>()
const emit = defineEmits<{ set: [values: object, gesture?: string] }>()
const levels = useLevelStore()
const ids = computed(() => idsByName(levels.doc, props.of.in))
const change = (k: number, values: object, gesture?: string) =>
  emit('set', { others: props.step.others.map((o, q) => (q === k ? { ...o, ...values } : o)) }, gesture)
const add = () => {
  const taken = new Set([
    (props.step as unknown as Record<string, unknown>)[props.of.key],
    ...props.step.others.map((o) => o[props.of.key]),
  ])
  const next = ids.value.find((i) => !taken.has(i)) ?? null
  emit('set', { others: [...props.step.others, { [props.of.key]: next, weight: 1 }] })
}
const drop = (k: number) => emit('set', { others: props.step.others.filter((_, q) => q !== k) })
const valueOf = (event: Event) => (event.target as HTMLSelectElement).value || null
</script>

<template>
  <div class="mt-1">
    <NumberField
      v-if="step.others.length > 0"
      label="weight of the first"
      :step="0.1"
      :digits="1"
      :min="0"
      :max="1000"
      :value="step.weight"
      @change="(v, g) => emit('set', { weight: v }, g)"
      @done="levels.release()"
    />
    <div v-for="(o, k) in step.others" :key="k" class="mt-1 flex items-end gap-1">
      <label class="min-w-0 flex-1">
        <span class="label">or {{ of.word }}</span>
        <select
          class="field"
          :aria-label="`or ${of.word} ${k + 2}`"
          :value="o[of.key] ?? ''"
          @change="change(k, { [of.key]: valueOf($event) })"
        >
          <option value="">none chosen</option>
          <option v-for="i in ids" :key="i" :value="i">{{ nameOf(levels.doc, i) }}</option>
        </select>
      </label>
      <NumberField
        class="w-[64px]"
        :label="`weight ${k + 2}`"
        :step="0.1"
        :digits="1"
        :min="0"
        :max="1000"
        :value="o.weight"
        @change="(v, g) => change(k, { weight: v }, g)"
        @done="levels.release()"
      />
      <IconButton :label="`Take ${of.word} ${k + 2} away`" :icon="IconTrash" @click="drop(k)" />
    </div>
    <button class="btn mt-1" @click="add">Or another {{ of.word }}</button>
  </div>
</template>
