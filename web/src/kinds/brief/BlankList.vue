<script setup lang="ts">
import type { Brief } from '@tidytrail/core/level'
import { IconTrash } from '@tabler/icons-vue'
import { randomId } from '../../stores/random-id'
import IconButton from '../../ui/IconButton.vue'
import { useThing } from '../card/use-thing'

/** What is left to each spawner: a route, a zone or a gait, by a name. */
const props = defineProps<{ id: string }>()
const { thing: brief, set } = useThing('briefs', () => props.id)
type Blank = Brief['blanks'][number]
const KINDS = ['route', 'zone', 'gait'] as const

function add(event: Event): void {
  const select = event.target as HTMLSelectElement
  const kind = select.value as Blank['kind'] | ''
  select.value = ''
  if (!kind) return
  const taken = new Set(brief.value.blanks.map((b) => b.name))
  let name: string = kind
  for (let k = 2; taken.has(name); k++) name = `${kind} ${k}`
  set({ blanks: [...brief.value.blanks, { id: randomId('steps'), name, kind }] })
}
const rename = (k: number, name: string) =>
  set({ blanks: brief.value.blanks.map((b, q) => (q === k ? { ...b, name } : b)) })
/** Steps that asked for it are about what is chosen in them again. */
function drop(k: number): void {
  const { id } = brief.value.blanks[k]
  const steps = Object.fromEntries(
    Object.entries(brief.value.steps).map(([s, step]) => [
      s,
      step.blankId === id || step.gaitBlankId === id
        ? {
            ...step,
            blankId: step.blankId === id ? null : step.blankId,
            gaitBlankId: step.gaitBlankId === id ? null : step.gaitBlankId,
          }
        : step,
    ]),
  )
  set({ blanks: brief.value.blanks.filter((_, q) => q !== k), steps })
}
</script>

<template>
  <div class="mt-3 border-t border-rule pt-2">
    <h3 class="text-[15px]">Left to each spawner</h3>
    <p v-if="brief.blanks.length === 0" class="text-faded">Nothing: all who are told by it do the same.</p>
    <div v-for="(b, k) in brief.blanks" :key="b.id" class="row py-0.5">
      <input
        class="field"
        :aria-label="`name of blank ${k + 1}`"
        maxlength="200"
        :value="b.name"
        @change="rename(k, ($event.target as HTMLInputElement).value.trim() || b.kind)"
      />
      <span class="label">{{ b.kind }}</span>
      <IconButton :label="`Take blank ${k + 1} away`" :icon="IconTrash" @click="drop(k)" />
    </div>
    <select class="field mt-1" aria-label="leave something to each spawner" @change="add">
      <option value="">leave something to them …</option>
      <option v-for="kind in KINDS" :key="kind" :value="kind">which {{ kind }}</option>
    </select>
  </div>
</template>
