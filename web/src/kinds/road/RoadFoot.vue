<script setup lang="ts">
import { LANE_WRITERS, type LaneWriter } from '@tidytrail/core/formats'
import { driveOn } from '@tidytrail/core/level'
import { sidesChanged } from '@tidytrail/core/traffic'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import ActionMenu from '../../ui/ActionMenu.vue'
import { downloadText } from '../../ui/download'

/** What can be done with all roads at once. */
const levels = useLevelStore()
const sheet = useSheetStore()
const side = computed(() => levels.doc.settings.drivesOn)
const change = (): void => void levels.perform(driveOn, sidesChanged(levels.doc))
const lanes = computed(() => Object.values(levels.doc.routes).some((r) => r.kind === 'lane' && r.order.length > 1))
function write({ word, ending, type, write: made }: LaneWriter): void {
  const { text, left } = made(levels.doc)
  downloadText(`${levels.doc.name}.${ending}`, text, type)
  sheet.hint = left.length > 0 ? `${word} is written without ${left.join('; without ')}.` : ''
}
const writers = LANE_WRITERS.map((w) => ({ name: `${w.word} (.${w.ending})`, run: () => write(w) }))
</script>

<template>
  <button class="btn" @click="sheet.toolId = 'road'">Draw one</button>
  <button class="btn" title="Every road changes its lanes over; what joins them stays" @click="change">
    Drives on the {{ side }}: change over
  </button>
  <ActionMenu label="Write lanes" :items="writers" :disabled="!lanes" />
</template>
