<script setup lang="ts">
import AskDialog from '../../ui/AskDialog.vue'
import type { Tool } from '../../tools/tool'

defineProps<{ open: boolean; tools: readonly Tool[] }>()
const emit = defineEmits<{ close: [] }>()
const KEYS: [string, string][] = [
  ['1 … 6', 'go to a stage'],
  ['Ctrl K', 'find anything'],
  ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
  ['Delete', 'delete what is chosen'],
  ['Escape', 'step back: what the pointer holds, tool, choice'],
  ['Enter, Escape', 'in a field: take what was typed, or take it back; the map has the keys again'],
  ['Space and drag', 'move the map'],
  ['Arrows', 'move what is chosen by a grid step; otherwise the map'],
  ['+ −, F', 'zoom, fit the level'],
  ['G', 'settle what is chosen, or everything'],
  ['O', 'the Overlook: the level standing up'],
  ['[ ]', 'size of the height brush'],
  ['Shift, Alt', 'constrain, no snapping'],
  ['Shift and drag', 'choose what lies in a box; with Alt, in a loop'],
  ['Ctrl A', 'all stops of the chosen route, or all the stage is about'],
  ['Ctrl C, Ctrl V', 'copy and paste, from level to level; lists of places too'],
  ['Arrows, then .', 'with a tool in hand: point at a place, and click there'],
  ['Arrows, then ,', 'with a tool in hand: press there and hold; arrows drag, and , or . lets go'],
  ['., then arrows', 'with Choose: point at things; . chooses, Shift and , begins a box, Alt and , a loop'],
  ['K, J, L', 'in Rehearse: run or pause, slower, faster'],
  [', and .', 'in Rehearse: one step back, one step on; with Shift to the event before, the next one'],
]
</script>

<template>
  <AskDialog :open="open" title="Keys" @close="emit('close')">
    <dl class="mt-3 grid grid-cols-[150px_1fr] gap-y-1 text-[13.5px]">
      <template v-for="[k, what] in KEYS" :key="k">
        <dt class="font-bold">{{ k }}</dt>
        <dd>{{ what }}</dd>
      </template>
      <template v-for="t in tools" :key="t.id">
        <dt class="font-bold">{{ t.key.toUpperCase() }}</dt>
        <dd>
          {{ t.label }}
          <span class="text-faded">in {{ t.stages.length > 3 ? 'every stage' : t.stages.join(', ') }}</span>
        </dd>
      </template>
    </dl>
    <button class="btn mt-4" @click="emit('close')">Close</button>
  </AskDialog>
</template>
