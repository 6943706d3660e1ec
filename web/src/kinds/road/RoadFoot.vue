<script setup lang="ts">
import { driveOn } from '@tidytrail/core/level'
import { sidesChanged } from '@tidytrail/core/traffic'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'

/** What can be done with all roads at once. */
const levels = useLevelStore()
const sheet = useSheetStore()
const side = computed(() => levels.doc.settings.drivesOn)
const change = (): void => void levels.perform(driveOn, sidesChanged(levels.doc))
</script>

<template>
  <button class="btn" @click="sheet.toolId = 'road'">Draw one</button>
  <button class="btn" title="Every road changes its lanes over; what joins them stays" @click="change">
    Drives on the {{ side }}: change over
  </button>
</template>
