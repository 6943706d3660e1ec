<script setup lang="ts">
import { addThing, briefSchema, freshName } from '@tidytrail/core/level'
import { useLevelStore } from '../../stores/level'
import { randomId } from '../../stores/random-id'
import { useSheetStore } from '../../stores/sheet'

const levels = useLevelStore()
const sheet = useSheetStore()
function write(): void {
  const id = randomId('briefs')
  const thing = briefSchema.parse({ name: freshName(levels.doc.briefs, 'Brief'), steps: {}, order: [] })
  levels.perform(addThing, { in: 'briefs', id, thing })
  sheet.choose([id])
}
</script>

<template><button class="btn btn-main" @click="write">Write a brief</button></template>
