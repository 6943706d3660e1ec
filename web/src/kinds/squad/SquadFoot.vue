<script setup lang="ts">
import { addThing, freshName, squadSchema } from '@tidytrail/core/level'
import { useLevelStore } from '../../stores/level'
import { randomId } from '../../stores/random-id'
import { useSheetStore } from '../../stores/sheet'

const levels = useLevelStore()
const sheet = useSheetStore()
function make(): void {
  const id = randomId('squads')
  const thing = squadSchema.parse({ name: freshName(levels.doc.squads, 'Squad') })
  levels.perform(addThing, { in: 'squads', id, thing })
  sheet.choose([id])
}
</script>

<template><button class="btn btn-main" @click="make">Make a squad</button></template>
