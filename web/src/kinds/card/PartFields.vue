<script setup lang="ts">
import { partFieldsOf, partWord, setThings, type Collection } from '@tidytrail/core/level'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import ThingFields from './ThingFields.vue'

/** The parts of a thing in their order, each with the fields of its schema: the steps of a brief. */
const props = defineProps<{ id: string; in: Collection }>()
const levels = useLevelStore()
type Holder = { order: string[] } & Record<string, Record<string, object>>
const holder = computed(() => levels.doc[props.in][props.id] as unknown as Holder)
const parts = computed(() => holder.value.order.map((id) => partFieldsOf(props.in, holder.value, id)))

function set(key: string, part: { id: string; thing: object }, values: (thing: object) => object, gesture?: string) {
  const changed = { ...holder.value[key], [part.id]: { ...part.thing, ...values(part.thing) } }
  levels.perform(
    setThings,
    { things: [{ in: props.in, id: props.id, set: { [key]: changed } }], word: 'Change' },
    gesture,
  )
}
</script>

<template>
  <ol class="mt-2 border-t border-rule pt-1">
    <li v-for="(p, k) in parts" :key="p.id" class="py-1">
      <p class="text-[13px]">
        <b>{{ k + 1 }}</b> {{ partWord(props.in, p.thing) }}
      </p>
      <ThingFields
        :in="props.in"
        :things="[p]"
        :fields="p.fields"
        @set="(values, gesture) => set(p.key, p, values, gesture)"
        @done="levels.release()"
      />
    </li>
  </ol>
</template>
