<script setup lang="ts">
import { boxOf, degrees } from '@tidytrail/core/geometry'
import { footprint, heightAt, terrainOf } from '@tidytrail/core/ground'
import { bodyOf } from '@tidytrail/core/level'
import { computed } from 'vue'
import CardFrame from '../card/CardFrame.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'
import NumberField from '../../ui/NumberField.vue'
import { movedBy } from './handles'

const props = defineProps<{ id: string }>()
const { levels, sheet, thing: solid, things, set, setField, release, remove } = useThing('solids', () => props.id)
const middle = computed(() => {
  const b = boxOf(footprint(solid.value))
  return [(b.minX + b.maxX) / 2, (b.minY + b.maxY) / 2]
})

/** What the steps of a flight of stairs ask of those who climb it. */
const riserNote = computed(() => {
  const s = solid.value
  if (s.shape !== 'stairs') return { text: '', hard: false }
  const riser = s.heightM / s.steps
  const cannot = Object.values(levels.doc.profiles).filter((p) => bodyOf(p.medium).turnsOnTheSpot && p.stepM < riser)
  const who = cannot.map((p) => p.name).join(', ')
  const text = `Each step rises ${(riser * 100).toFixed(0)} cm over ${((s.sizeX / s.steps) * 100).toFixed(0)} cm.`
  return { text: who ? `${text} Too high for ${who}.` : text, hard: who !== '' }
})

function settle() {
  const { field } = terrainOf(levels.doc)
  const low = Math.min(...footprint(solid.value).map(([x, y]) => heightAt(field, x, y)))
  set({ baseM: Math.round(low * 1000) / 1000 })
}
</script>

<template>
  <CardFrame
    :kind="solid.shape"
    :name="solid.name"
    tone="text-ink"
    :locked="solid.locked"
    @rename="set({ name: $event })"
  >
    <fieldset :disabled="solid.locked">
      <div class="grid grid-cols-2 gap-x-3 gap-y-2">
        <NumberField
          label="east"
          unit="m"
          :value="middle[0]"
          :digits="3"
          @change="(v, g) => set(movedBy(solid, v - middle[0], 0), g)"
          @done="release"
        />
        <NumberField
          label="north"
          unit="m"
          :value="middle[1]"
          :digits="3"
          @change="(v, g) => set(movedBy(solid, 0, v - middle[1]), g)"
          @done="release"
        />
      </div>
      <ThingFields in="solids" :things="things" @set="setField" @done="release">
        <p v-if="solid.shape === 'ramp'" class="mt-2 text-[13px] text-faded">
          Rises {{ degrees(Math.atan2(solid.heightM, solid.sizeX)).toFixed(1) }}° to
          {{ (solid.baseM + solid.heightM).toFixed(2) }} m.
        </p>
        <p
          v-else-if="solid.shape === 'stairs'"
          class="mt-2 text-[13px]"
          :class="riserNote.hard ? 'text-ochre' : 'text-faded'"
        >
          {{ riserNote.text }}
        </p>
        <p v-else class="mt-2 text-[13px] text-faded">
          Its top is at {{ (solid.baseM + solid.heightM).toFixed(2) }} m.
        </p>
      </ThingFields>
    </fieldset>
    <template #foot>
      <button class="btn" @click="settle">Settle</button>
      <button class="btn" @click="sheet.arranging = true">Copies …</button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
