<script setup lang="ts">
import { IconGripVertical } from '@tabler/icons-vue'
import { moveStop } from '@tidytrail/core/level'
import { computed, ref } from 'vue'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import { facingWords, pauseWords } from './stop-words'

/** The stops of a route in their order, to be opened and put in another. */
const props = defineProps<{ id: string }>()
const levels = useLevelStore()
const sheet = useSheetStore()
const route = computed(() => levels.doc.routes[props.id])
const dragged = ref<string>()

/** So many stops are listed at once; a longer list has pages. */
const PAGE = 80
const page = ref(0)
const pages = computed(() => Math.ceil(route.value.order.length / PAGE))
const first = computed(() => Math.min(page.value, Math.max(0, pages.value - 1)) * PAGE)
const listed = computed(() => route.value.order.slice(first.value, first.value + PAGE))

function drop(onto: number) {
  if (dragged.value) levels.perform(moveStop, { routeId: props.id, stopId: dragged.value, to: onto })
  dragged.value = undefined
}

function onStopKey(event: KeyboardEvent, stopId: string, i: number) {
  if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
    event.preventDefault()
    levels.perform(moveStop, { routeId: props.id, stopId, to: i + (event.key === 'ArrowUp' ? -1 : 1) })
  } else if (event.key === 'Enter') sheet.choose([stopId])
}
</script>

<template>
  <div>
    <div class="mt-2 flex items-baseline justify-between">
      <h3 class="text-[15px]">Stops</h3>
      <span class="label">pause · facing</span>
    </div>
    <ol class="mt-1" aria-label="Stops, in order">
      <li
        v-for="(stopId, i) in listed"
        :key="stopId"
        tabindex="0"
        class="group flex cursor-pointer items-center gap-2 border-t border-dotted border-rule py-[3px] hover:bg-tint/60"
        :title="'Click to open; drag, or Alt and arrow keys, to reorder'"
        :draggable="!route.locked"
        @dragstart="dragged = stopId"
        @dragover.prevent
        @drop.prevent="drop(first + i)"
        @click="sheet.choose([stopId])"
        @keydown="onStopKey($event, stopId, first + i)"
      >
        <span class="w-5 text-right font-bold text-rust">{{ first + i + 1 }}</span>
        <span class="min-w-0 flex-1 truncate">{{
          levels.doc.waypoints[route.stops[stopId].waypointId].name || `Stop ${first + i + 1}`
        }}</span>
        <span class="w-11 shrink-0 text-right">{{ pauseWords(route.stops[stopId]) }}</span>
        <span class="w-6 shrink-0 text-right text-faded">{{ facingWords(route.stops[stopId].facingRad) }}</span>
        <IconGripVertical :size="13" class="text-faded opacity-0 group-hover:opacity-100" aria-hidden="true" />
      </li>
    </ol>
    <p v-if="pages > 1" class="mt-1 flex items-center justify-between border-t border-rule pt-1 text-[12.5px]">
      <button class="btn-quiet" :disabled="first === 0" @click="page = first / PAGE - 1">Earlier</button>
      <span>{{ first + 1 }} to {{ first + listed.length }} of {{ route.order.length.toLocaleString('en') }}</span>
      <button class="btn-quiet" :disabled="first + PAGE >= route.order.length" @click="page = first / PAGE + 1">
        Later
      </button>
    </p>
  </div>
</template>
