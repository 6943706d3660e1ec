<script setup lang="ts">
import { useSheetStore } from '../../stores/sheet'
import ActionMenu from '../../ui/ActionMenu.vue'

/** Ways to make routes. */
const sheet = useSheetStore()
const items = [
  { name: 'From a list of places …', run: () => (sheet.laying = 'list' as const) },
  { name: 'Along an edge …', run: () => (sheet.laying = 'along' as const) },
  { name: 'Sweep an area …', run: () => (sheet.laying = 'sweep' as const) },
  { name: 'Along a found way …', run: () => (sheet.laying = 'way' as const) },
  { name: 'A network, node by node', run: () => void (sheet.toolId = 'link') },
]
</script>

<template>
  <button class="btn btn-main" @click="sheet.toolId = 'draw'">Draw a route</button>
  <ActionMenu label="Lay" :items="items" />
</template>
