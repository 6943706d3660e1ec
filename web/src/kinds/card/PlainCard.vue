<script setup lang="ts">
import { kindIn, standsAlone, type AnyThing, type Collection } from '@tidytrail/core/level'
import { computed } from 'vue'
import CardFrame from './CardFrame.vue'
import ThingFields from './ThingFields.vue'
import { useThing } from './use-thing'

/** The card of a kind that says nothing of it: the fields of its schema. */
const props = defineProps<{ id: string; in: Collection; tone: string }>()
const { sheet, thing, things, set, setField, release, remove } = useThing(props.in, () => props.id)
const any = computed(() => thing.value as AnyThing)
const word = kindIn(props.in).word
</script>

<template>
  <CardFrame
    :kind="word"
    :name="any.name || word"
    :tone="tone"
    :locked="any.locked"
    @rename="set({ name: $event } as never)"
  >
    <fieldset :disabled="any.locked">
      <ThingFields :in="props.in" :things="things" @set="setField" @done="release" />
    </fieldset>
    <template #foot>
      <button v-if="standsAlone(props.in)" class="btn" @click="sheet.arranging = true">Copies …</button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
