<script setup lang="ts">
import { lengthOf } from '@tidytrail/core/geometry'
import { middleLine, MOST_PASSING, type Road } from '@tidytrail/core/level'
import { IconTrash } from '@tabler/icons-vue'
import { computed } from 'vue'
import IconButton from '../../ui/IconButton.vue'
import NumberField from '../../ui/NumberField.vue'
import { useThing } from '../card/use-thing'

/** Where those who meet on a track pass each other. */
const props = defineProps<{ id: string }>()
const { thing: road, set, release } = useThing('roads', () => props.id)
/** A passing place that is added is so long, metres. */
const PLACE_M = 20

type Place = Road['passing'][number]
const lengthM = computed(() => lengthOf(middleLine(road.value)))
/** In the middle of the longest stretch between two places, or a place and an end. */
function add(): void {
  const places = [...road.value.passing].sort((a, b) => a.fromM - b.fromM)
  const from = [0, ...places.map((p) => p.toM)]
  const to = [...places.map((p) => p.fromM), lengthM.value]
  const long = from.map((m, k) => to[k] - m)
  const k = long.indexOf(Math.max(...long))
  const fromM = Math.max(0, Math.round((from[k] + to[k] - PLACE_M) / 2))
  set({ passing: [...road.value.passing, { fromM, toM: fromM + PLACE_M }] })
}
const change = (k: number, values: Partial<Place>, gesture?: string) =>
  set({ passing: road.value.passing.map((p, q) => (q === k ? { ...p, ...values } : p)) }, gesture)
</script>

<template>
  <section class="mt-3 border-t border-rule pt-2" aria-label="Passing places">
    <h3 class="text-[15px]">Passing places</h3>
    <p class="text-[13px] text-faded">
      {{ road.passing.length === 0 ? 'None: they pass each other at its ends alone.' : 'Its ends are wide as well.' }}
    </p>
    <fieldset :disabled="road.locked">
      <div
        v-for="(p, k) in road.passing"
        :key="k"
        class="mt-1 flex items-end gap-2"
        role="group"
        :aria-label="`Passing place ${k + 1}`"
      >
        <NumberField
          class="w-24"
          :label="k === 0 ? 'from' : `from, ${k + 1}`"
          unit="m"
          :step="1"
          :digits="1"
          :min="0"
          :value="p.fromM"
          @change="(v, g) => change(k, { fromM: Math.min(v, p.toM) }, g)"
          @done="release"
        />
        <NumberField
          class="w-24"
          :label="k === 0 ? 'to' : `to, ${k + 1}`"
          unit="m"
          :step="1"
          :digits="1"
          :min="0"
          :value="p.toM"
          @change="(v, g) => change(k, { toM: Math.max(v, p.fromM) }, g)"
          @done="release"
        />
        <IconButton
          :label="`Take passing place ${k + 1} away`"
          :icon="IconTrash"
          @click="set({ passing: road.passing.filter((_, q) => q !== k) })"
        />
      </div>
      <button class="btn mt-1" :disabled="road.passing.length >= MOST_PASSING" @click="add">Add a passing place</button>
    </fieldset>
  </section>
</template>
