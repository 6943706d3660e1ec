<script setup lang="ts">
import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions, Dialog, DialogPanel } from '@headlessui/vue'
import { computed, ref, watch } from 'vue'
import { findable } from '../../kinds'
import { useLevelStore } from '../../stores/level'
import { STAGE_NAMES, STAGES, useSheetStore, type StageId } from '../../stores/sheet'
import type { Tool } from '../../tools/tool'
import { requestZoom } from '../../map/zoom-wish'
import { useTheme } from '../../ui/theme'

const props = defineProps<{ open: boolean; tools: readonly Tool[] }>()
const emit = defineEmits<{ close: []; go: [stage: StageId] }>()
const levels = useLevelStore()
const sheet = useSheetStore()
const { night, toggle } = useTheme()
const text = ref('')
/** Has it been left? The list takes what is marked in it when it loses the keys, and by Escape nothing is to be done. */
let left = false
watch(
  () => props.open,
  (open) => {
    text.value = ''
    left = !open
  },
)
function leave() {
  left = true
  emit('close')
}

interface Entry {
  key: string
  name: string
  kind: string
  run: () => void
}

const entries = computed<Entry[]>(() => {
  const l = levels.doc
  const show = (id: string) => () => {
    sheet.choose([id])
    requestZoom(id)
  }
  return [
    ...STAGES.map((s) => ({ key: s, name: STAGE_NAMES[s], kind: 'stage', run: () => emit('go', s) })),
    ...props.tools.map((t) => ({
      key: t.id,
      name: t.label,
      kind: 'tool',
      run: () => {
        if (!t.stages.includes(sheet.stage)) emit('go', t.stages[0])
        sheet.toolId = t.id
      },
    })),
    ...findable(l).map(({ id, name, kind }) => ({ key: id, name, kind, run: show(id) })),
    ...Object.values(l.routes).flatMap((r) =>
      r.order.map((s, i) => ({
        key: s,
        name: l.waypoints[r.stops[s].waypointId].name || `Stop ${i + 1}`,
        kind: `stop of ${r.name}`,
        run: show(s),
      })),
    ),
    { key: 'undo', name: 'Undo', kind: 'command', run: levels.undo },
    { key: 'redo', name: 'Redo', kind: 'command', run: levels.redo },
    { key: 'import', name: 'Import …', kind: 'command', run: () => (sheet.importing = true) },
    {
      key: 'level',
      name: 'The level: size, grid, water, limits …',
      kind: 'command',
      run: () => (sheet.settingUp = true),
    },
    { key: 'overlook', name: 'Overlook', kind: 'view', run: () => (sheet.overlook = !sheet.overlook) },
    { key: 'legend', name: 'Legend', kind: 'view', run: () => (sheet.panels.legend = !sheet.panels.legend) },
    { key: 'theme', name: night.value ? 'Day' : 'Night', kind: 'view', run: toggle },
  ]
})
const found = computed(() => {
  const wanted = text.value.trim().toLowerCase()
  return entries.value.filter((e) => !wanted || `${e.name} ${e.kind}`.toLowerCase().includes(wanted)).slice(0, 12)
})

function take(entry: Entry | null) {
  if (left) return
  leave()
  entry?.run()
}
</script>

<template>
  <Dialog :open="open" class="relative z-40" aria-label="Find anything" @close="leave">
    <div class="fixed inset-0 bg-ink/20" aria-hidden="true" />
    <div class="fixed inset-x-0 top-20 flex justify-center">
      <DialogPanel class="panel w-[460px]">
        <Combobox :model-value="null" @update:model-value="take">
          <ComboboxInput
            class="w-full border-b border-rule bg-transparent px-3 py-2.5 text-[16px]"
            placeholder="Find a route, stop, spawner, solid, tool …"
            @change="text = $event.target.value"
            @keydown.escape.capture.stop="leave"
          />
          <ComboboxOptions static class="max-h-[340px] overflow-y-auto py-1">
            <ComboboxOption v-for="e in found" :key="e.key" v-slot="{ active }" :value="e" as="template">
              <li class="flex cursor-pointer justify-between px-3 py-1" :class="active ? 'bg-tint' : ''">
                <span>{{ e.name }}</span><span class="text-faded">{{ e.kind }}</span>
              </li>
            </ComboboxOption>
            <li v-if="found.length === 0" class="px-3 py-2 text-faded">Nothing is called that.</li>
          </ComboboxOptions>
        </Combobox>
      </DialogPanel>
    </div>
  </Dialog>
</template>
