<script setup lang="ts">
import { computed } from 'vue'
import type { Register } from '../../kinds/register'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import { giveRoute } from '../../map/take-drops'
import { compareNames } from '../../ui/names'
import StageRegister from './StageRegister.vue'

defineProps<{ registers: readonly Register[] }>()
const levels = useLevelStore()
const sheet = useSheetStore()
const routes = computed(() =>
  Object.entries(levels.doc.routes)
    .filter(([, r]) => r.kind !== 'network')
    .sort(([, a], [, b]) => compareNames(a.name, b.name)),
)
const chosen = computed(() => sheet.selected.filter((id) => levels.doc.spawners[id]))

function drag(event: DragEvent, id: string) {
  event.dataTransfer?.setData('application/x-tidytrail-route', id)
}
</script>

<template>
  <div class="flex max-h-full flex-col gap-2">
    <StageRegister class="min-h-[150px]" :registers="registers" />
    <section v-if="routes.length > 0" class="panel w-[236px] px-3 py-2" aria-label="Routes to assign">
      <p class="label mb-1">
        {{ chosen.length > 0 ? 'Press a route to have it followed' : 'Drop a route on a spawner' }}
      </p>
      <div class="flex max-h-[92px] flex-wrap gap-1 overflow-y-auto">
        <button
          v-for="[id, r] in routes"
          :key="id"
          class="max-w-full cursor-grab truncate rounded-full border border-rust px-2 py-0.5 text-[12.5px]"
          draggable="true"
          :title="`Drag ${r.name} onto a spawner, or press to give it to the spawners that are chosen`"
          @dragstart="drag($event, id)"
          @click="giveRoute(levels, sheet, id, chosen)"
          @mouseenter="sheet.hovered = id"
          @mouseleave="sheet.hovered = undefined"
        >
          {{ r.name }}
        </button>
      </div>
    </section>
  </div>
</template>
