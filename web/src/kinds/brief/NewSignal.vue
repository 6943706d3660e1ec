<script setup lang="ts">
import { addThing, freshName, signalSchema } from '@tidytrail/core/level'
import { useLevelStore } from '../../stores/level'
import { randomId } from '../../stores/random-id'

/** Makes a signal for what is about one. */
const emit = defineEmits<{ made: [id: string] }>()
const levels = useLevelStore()
function make(): void {
  const id = randomId('signals')
  const thing = signalSchema.parse({ name: freshName(levels.doc.signals, 'Signal') })
  levels.perform(addThing, { in: 'signals', id, thing })
  emit('made', id)
}
</script>

<template><button class="btn mt-1" @click="make">New signal</button></template>
