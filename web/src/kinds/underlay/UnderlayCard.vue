<script setup lang="ts">
import { degrees, radians } from '@tidytrail/core/geometry'
import CardFrame from '../../sheet/cards/CardFrame.vue'
import NumberField from '../../ui/NumberField.vue'
import { useThing } from '../../sheet/cards/use-thing'

const props = defineProps<{ id: string }>()
const { sheet, thing: underlay, set, release, remove } = useThing('underlays', () => props.id)
</script>

<template>
  <CardFrame
    kind="underlay"
    :name="underlay.name"
    tone="text-faded"
    :locked="underlay.locked"
    @rename="set({ name: $event })"
  >
    <fieldset :disabled="underlay.locked">
      <label class="block">
        <span class="label">opacity, {{ Math.round(underlay.opacity * 100) }} %</span>
        <input
          type="range"
          class="w-full accent-pine"
          min="0"
          max="1"
          step="0.05"
          aria-label="Opacity"
          :value="underlay.opacity"
          @input="set({ opacity: Number(($event.target as HTMLInputElement).value) }, `opacity-${id}`)"
          @change="release"
        />
      </label>
      <div class="mt-1 grid grid-cols-2 gap-x-3 gap-y-2">
        <NumberField
          label="corner, east"
          unit="m"
          :digits="3"
          :value="underlay.at[0]"
          @change="(v, g) => set({ at: [v, underlay.at[1]] }, g)"
          @done="release"
        />
        <NumberField
          label="corner, north"
          unit="m"
          :digits="3"
          :value="underlay.at[1]"
          @change="(v, g) => set({ at: [underlay.at[0], v] }, g)"
          @done="release"
        />
        <NumberField
          label="a pixel is"
          unit="m"
          :step="0.001"
          :digits="5"
          :min="0.00001"
          :value="underlay.metresPerPixel"
          @change="(v, g) => set({ metresPerPixel: v }, g)"
          @done="release"
        />
        <NumberField
          label="turned"
          unit="°"
          :step="1"
          :digits="1"
          :value="degrees(underlay.turnRad)"
          @change="(v, g) => set({ turnRad: radians(v) }, g)"
          @done="release"
        />
      </div>
    </fieldset>
    <p class="mt-2 text-[13px] text-faded">Two places whose distance you know place it at once.</p>
    <template #foot>
      <button class="btn btn-main" :disabled="underlay.locked" @click="sheet.toolId = 'pin'">
        Place by two points
      </button>
      <button class="btn" @click="set({ locked: !underlay.locked })">{{ underlay.locked ? 'Unlock' : 'Lock' }}</button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
