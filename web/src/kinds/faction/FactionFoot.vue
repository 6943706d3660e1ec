<script setup lang="ts">
import { addThing, factionSchema, freshFaction } from '@tidytrail/core/level'
import { useLevelStore } from '../../stores/level'
import { randomId } from '../../stores/random-id'
import { useSheetStore } from '../../stores/sheet'

const levels = useLevelStore()
const sheet = useSheetStore()
function make(): void {
  const id = randomId('factions')
  levels.perform(addThing, { in: 'factions', id, thing: factionSchema.parse(freshFaction(levels.doc.factions)) })
  sheet.choose([id])
}
</script>

<template><button class="btn btn-main" @click="make">Make a faction</button></template>
