<script setup lang="ts">
import { distance2 } from '@tidytrail/core/geometry'
import { floorsAt, terrainOf } from '@tidytrail/core/ground'
import { computed } from 'vue'
import { metres } from '../../ui/figures'
import NumberField from '../../ui/NumberField.vue'
import CardFrame from '../card/CardFrame.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'
import { PASSAGE_WORDS } from './draw-passage'

const props = defineProps<{ id: string }>()
const { levels, thing: passage, things, set, setField, release, remove } = useThing('passages', () => props.id)
const rise = computed(() => passage.value.to[2] - passage.value.from[2])

/** The floors an end could lie on. */
const floors = (end: 'from' | 'to') =>
  floorsAt(terrainOf(levels.doc), passage.value[end][0], passage.value[end][1]).map(
    (f) => Math.round(f.z * 1000) / 1000,
  )
function setHeight(end: 'from' | 'to', z: number, gesture?: string) {
  const [x, y] = passage.value[end]
  set({ [end]: [x, y, z] }, gesture)
}
function turnRound() {
  set({ from: passage.value.to, to: passage.value.from })
}
</script>

<template>
  <CardFrame
    :kind="`${passage.kind} passage`"
    :name="passage.name || PASSAGE_WORDS[passage.kind]"
    tone="text-plum"
    :locked="passage.locked"
    @rename="set({ name: $event })"
  >
    <p class="text-[13px] text-faded">
      {{ metres(distance2(passage.from, passage.to)) }} over the map,
      {{ Math.abs(rise) < 0.01 ? 'level' : `${rise > 0 ? 'up' : 'down'} ${metres(Math.abs(rise))}` }}.
    </p>
    <fieldset :disabled="passage.locked">
      <ThingFields in="passages" :things="things" @set="setField" @done="release">
        <div class="mt-2 grid grid-cols-2 gap-x-3 gap-y-2">
          <div v-for="end in ['from', 'to'] as const" :key="end">
            <NumberField
              :label="end === 'from' ? 'begins at height' : 'ends at height'"
              unit="m"
              :step="0.05"
              :value="passage[end][2]"
              @change="(v, g) => setHeight(end, v, g)"
              @done="release"
            />
            <select
              v-if="floors(end).length > 1"
              class="field mt-1"
              :aria-label="end === 'from' ? 'Floor it begins on' : 'Floor it ends on'"
              :value="floors(end).find((z) => Math.abs(z - passage[end][2]) < 0.05) ?? ''"
              @change="setHeight(end, Number(($event.target as HTMLSelectElement).value))"
            >
              <option value="" disabled>on a floor …</option>
              <option v-for="z in floors(end)" :key="z" :value="z">floor at {{ z.toFixed(2) }} m</option>
            </select>
          </div>
        </div>
      </ThingFields>
    </fieldset>
    <template #foot>
      <button class="btn" @click="turnRound">Turn round</button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
