<script setup lang="ts">
import { IconTrash } from '@tabler/icons-vue'
import { computed } from 'vue'
import IconButton from '../../ui/IconButton.vue'
import NumberField from '../../ui/NumberField.vue'
import { useThing } from '../card/use-thing'

/** The spots of a spawner that sends to several: dragged on the map, weighed and taken away here. */
const props = defineProps<{ id: string }>()
const { thing: spawner, set, release } = useThing('spawners', () => props.id)
const spots = computed(() => [spawner.value.at, ...spawner.value.spots])
const weightOf = (k: number) => spawner.value.weights[k] ?? 1
const random = computed(() => spawner.value.pick === 'random')

function weigh(k: number, weight: number, gesture?: string): void {
  set({ weights: spots.value.map((_, q) => (q === k ? weight : weightOf(q))) }, gesture)
}
/** A further one beside the last. */
function add(): void {
  const [x, y, z] = spots.value[spots.value.length - 1]
  set({ spots: [...spawner.value.spots, [x + 2, y, z]] })
}
function drop(k: number): void {
  set({
    spots: spawner.value.spots.filter((_, q) => q !== k - 1),
    weights: spawner.value.weights.filter((_, q) => q !== k),
  })
}
</script>

<template>
  <ul class="mt-1" aria-label="Spots">
    <li v-for="([x, y], k) in spots" :key="k" class="row py-0.5">
      <b class="w-4 text-right">{{ k + 1 }}</b>
      <span class="label flex-1">{{ x.toFixed(1) }}, {{ y.toFixed(1) }} m</span>
      <NumberField
        v-if="random"
        class="w-[86px]"
        :label="`weight of spot ${k + 1}`"
        :step="0.1"
        :digits="1"
        :min="0"
        :max="1000"
        :value="weightOf(k)"
        @change="(v, g) => weigh(k, v, g)"
        @done="release"
      />
      <IconButton v-if="k > 0" :label="`Take spot ${k + 1} away`" :icon="IconTrash" @click="drop(k)" />
    </li>
  </ul>
  <button class="btn mt-1" @click="add">Add a spot</button>
</template>
