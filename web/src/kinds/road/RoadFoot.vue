<script setup lang="ts">
import { driveOn } from '@tidytrail/core/level'
import { laneNet, sidesSwapped } from '@tidytrail/core/traffic'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'

/** What can be done with all roads at once. */
const levels = useLevelStore()
const sheet = useSheetStore()
const side = computed(() => levels.doc.settings.drivesOn)
function change(): void {
  const other = side.value === 'left' ? 'right' : 'left'
  levels.perform(driveOn, { side: other, moves: sidesSwapped(laneNet(levels.doc), levels.doc.waypoints) })
}
</script>

<template>
  <button class="btn" @click="sheet.toolId = 'road'">Draw one</button>
  <button class="btn" title="Every road changes its lanes over; what joins them stays" @click="change">
    Drives on the {{ side }}: change over
  </button>
</template>
