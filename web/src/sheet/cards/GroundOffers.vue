<script setup lang="ts">
import { layGround, READY_GROUNDS, type ReadyGround } from '@tidytrail/core/level'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { randomId } from '../../stores/random-id'
import { useSheetStore } from '../../stores/sheet'

/** What comes first in a new level: how large it is, and what it stands on. */
const levels = useLevelStore()
const sheet = useSheetStore()
const size = computed(() => {
  const { minX, maxX, minY, maxY } = levels.doc.settings.extent
  return `${+(maxX - minX).toFixed(1)} × ${+(maxY - minY).toFixed(1)} m`
})
function lay(ready: ReadyGround): void {
  const laid = ready.make(levels.doc.settings.extent)
  levels.perform(layGround, { name: ready.name, laid, ids: laid.solids.map(() => randomId('solids')) })
}
</script>

<template>
  <div class="mt-2 flex flex-col items-start gap-2 text-[13px]">
    <p>
      The sheet is flat and {{ size }} large.
      <button class="underline underline-offset-2" @click="sheet.settingUp = true">Change its size</button>
    </p>
    <div class="flex flex-wrap gap-2">
      <button class="btn btn-main" @click="sheet.toolId = 'box'">Draw the first solid</button>
      <button class="btn" @click="sheet.importing = true">Import ground …</button>
    </div>
    <h3 class="mt-1 w-full border-t border-rule pt-2 text-[14px]">Or begin with ground that is ready</h3>
    <button
      v-for="g in READY_GROUNDS"
      :key="g.name"
      class="w-full rounded-sm border border-rule px-2.5 py-1.5 text-left hover:border-ink hover:bg-tint"
      @click="lay(g)"
    >
      <b class="block">{{ g.name }}</b>
      <span class="text-faded">{{ g.says }}</span>
    </button>
  </div>
</template>
