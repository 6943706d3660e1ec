<script setup lang="ts">
import { factionIdOf } from '@tidytrail/core/level'
import { computed } from 'vue'
import { FactionDrop } from '../faction/faction-drop'
import { useLevelStore } from '../../stores/level'
import type { RegisterRow } from '../register'

/** The drop of those a spawner sends. */
const props = defineProps<{ row: RegisterRow }>()
const levels = useLevelStore()
const faction = computed(() => {
  const spawner = levels.level?.spawners[props.row.id]
  return spawner ? (factionIdOf(levels.doc, spawner) ?? '') : ''
})
</script>

<template><FactionDrop :row="{ id: faction }" /></template>
