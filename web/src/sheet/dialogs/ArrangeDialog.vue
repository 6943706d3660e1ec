<script setup lang="ts">
import { boxOf } from '@tidytrail/core/geometry'
import { outlineOf } from '@tidytrail/core/ground'
import { addThings, copiesOf, mirrorIn, shift, type Collection } from '@tidytrail/core/level'
import { computed, ref } from 'vue'
import { useLevelStore } from '../../stores/level'
import { randomId } from '../../stores/random-id'
import { useSheetStore } from '../../stores/sheet'
import AskDialog from '../../ui/AskDialog.vue'
import { count } from '../../ui/figures'
import NumberField from '../../ui/NumberField.vue'

/** Copies of what is chosen: in a row, or mirrored. */
const levels = useLevelStore()
const sheet = useSheetStore()
const how = ref<'row' | 'upright' | 'level'>('row')
const copies = ref(3)
const dx = ref(5)
const dy = ref(0)
const dz = ref(0)

/** The box around what is chosen; a mirror stands at its east or north side. */
const box = computed(() => {
  const points = sheet.selected.flatMap((id) => outlineOf(levels.doc, id))
  return points.length > 0 ? boxOf(points) : undefined
})
const motions = computed(() => {
  if (!box.value) return []
  if (how.value === 'row')
    return Array.from({ length: Math.max(1, Math.min(500, Math.round(copies.value))) }, (_, k) =>
      shift((k + 1) * dx.value, (k + 1) * dy.value, (k + 1) * dz.value),
    )
  return [mirrorIn(how.value, box.value.maxX, box.value.maxY)]
})
function apply() {
  const things = copiesOf(levels.doc, sheet.selected, motions.value, (c: Collection) => randomId(c))
  if (things.length > 0) {
    const word = how.value === 'row' ? 'Copy' : 'Mirror'
    levels.perform(addThings, { things, label: `${word} ${count(sheet.selected.length, 'thing')}` })
    sheet.choose(things.map((t) => t.id))
  }
  sheet.arranging = false
}
</script>

<template>
  <AskDialog
    :open="sheet.arranging"
    :title="`Copies of ${count(sheet.selected.length, 'thing')}`"
    @close="sheet.arranging = false"
  >
    <fieldset class="mt-2 flex flex-col gap-1">
      <label class="row"><input v-model="how" type="radio" value="row" class="accent-pine" /> in a row</label>
      <label class="row"
        ><input v-model="how" type="radio" value="upright" class="accent-pine" /> one, mirrored at the east side</label
      >
      <label class="row"
        ><input v-model="how" type="radio" value="level" class="accent-pine" /> one, mirrored at the north side</label
      >
    </fieldset>
    <div v-if="how === 'row'" class="mt-3 grid grid-cols-4 gap-3">
      <NumberField label="how many" :digits="0" :min="1" :max="500" :value="copies" @change="(v) => (copies = v)" />
      <NumberField label="each east" unit="m" :value="dx" @change="(v) => (dx = v)" />
      <NumberField label="each north" unit="m" :value="dy" @change="(v) => (dy = v)" />
      <NumberField label="each up" unit="m" :value="dz" @change="(v) => (dz = v)" />
    </div>
    <p v-if="!box" class="mt-2 text-[13px] text-alarm">Nothing chosen can be copied this way.</p>
    <div class="mt-4 flex gap-2">
      <button class="btn btn-main" :disabled="!box" @click="apply">
        {{
          how === 'row'
            ? `Make ${count(motions.length * sheet.selected.length, 'copy', 'copies')}`
            : 'Make the mirrored copy'
        }}
      </button>
      <button class="btn" @click="sheet.arranging = false">Cancel</button>
    </div>
  </AskDialog>
</template>
