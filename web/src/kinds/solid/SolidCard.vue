<script setup lang="ts">
import { boxOf, degrees, radians } from '@tidytrail/core/geometry'
import { footprint, heightAt, terrainOf } from '@tidytrail/core/ground'
import { computed } from 'vue'
import { movedBy, turns } from './handles'
import CardFrame from '../../sheet/cards/CardFrame.vue'
import NumberField from '../../ui/NumberField.vue'
import StandingFields from './StandingFields.vue'
import { useThing } from '../../sheet/cards/use-thing'

const props = defineProps<{ id: string }>()
const { levels, sheet, thing: solid, set, release, remove } = useThing('solids', () => props.id)
const middle = computed(() => {
  const b = boxOf(footprint(solid.value))
  return [(b.minX + b.maxX) / 2, (b.minY + b.maxY) / 2]
})

/** What the steps of a flight of stairs ask of those who climb it. */
const riserNote = computed(() => {
  const s = solid.value
  if (s.shape !== 'stairs') return { text: '', hard: false }
  const riser = s.heightM / s.steps
  const cannot = Object.values(levels.doc.profiles).filter((p) => p.medium === 'foot' && p.stepM < riser)
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
    <fieldset class="grid grid-cols-2 gap-x-3 gap-y-2" :disabled="solid.locked">
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
      <NumberField
        v-if="solid.shape === 'cylinder'"
        label="radius"
        unit="m"
        :value="solid.radiusM"
        :min="0.1"
        @change="(v, g) => set({ radiusM: v }, g)"
        @done="release"
      />
      <template v-if="turns(solid)">
        <NumberField
          :label="solid.shape === 'box' ? 'length' : 'length, uphill'"
          unit="m"
          :value="solid.sizeX"
          :min="0.1"
          @change="(v, g) => set({ sizeX: v }, g)"
          @done="release"
        />
        <NumberField
          label="width"
          unit="m"
          :value="solid.sizeY"
          :min="0.1"
          @change="(v, g) => set({ sizeY: v }, g)"
          @done="release"
        />
        <NumberField
          label="turned"
          unit="°"
          :step="1"
          :digits="1"
          :value="degrees(solid.turnRad)"
          @change="(v, g) => set({ turnRad: radians(v) }, g)"
          @done="release"
        />
      </template>
      <NumberField
        v-if="solid.shape === 'stairs'"
        label="steps"
        :value="solid.steps"
        :step="0.1"
        :digits="0"
        :min="1"
        :max="500"
        @change="(v, g) => set({ steps: Math.round(v) }, g)"
        @done="release"
      />
      <NumberField
        label="underside at"
        unit="m"
        :step="0.05"
        :value="solid.baseM"
        @change="(v, g) => set({ baseM: v }, g)"
        @done="release"
      />
      <NumberField
        label="height"
        unit="m"
        :step="0.05"
        :min="0.05"
        :value="solid.heightM"
        @change="(v, g) => set({ heightM: v }, g)"
        @done="release"
      />
    </fieldset>
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
    <p v-else class="mt-2 text-[13px] text-faded">Its top is at {{ (solid.baseM + solid.heightM).toFixed(2) }} m.</p>
    <StandingFields :thing="solid" stand="agents may stand on top" @set="set" />
    <template #foot>
      <button class="btn" @click="settle">Settle</button>
      <button class="btn" @click="sheet.arranging = true">Copies …</button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
