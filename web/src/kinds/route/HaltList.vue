<script setup lang="ts">
import { fieldsIn, haltSchema, MOST_HALTS, type Halt } from '@tidytrail/core/level'
import { laneNet, placesOf } from '@tidytrail/core/traffic'
import { IconTrash } from '@tabler/icons-vue'
import { computed } from 'vue'
import IconButton from '../../ui/IconButton.vue'
import { count } from '../../ui/figures'
import ProfileChoice from '../card/ProfileChoice.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'

/** Where those who drive along a lane stand for a while: its platforms and parking places. */
const props = defineProps<{ id: string }>()
const { levels, thing: route, set, release } = useThing('routes', () => props.id)
/** So long is a platform that is added, and a row of parking places, metres. */
const PLATFORM_M = 20
const PARKING_M = 42

const lengthM = computed(() => laneNet(levels.doc).lanes.get(props.id)?.line.lengthM ?? 0)
const full = computed(() => route.value.halts.length >= MOST_HALTS)
const placesIn = (halt: Halt) => placesOf(halt, lengthM.value).length
/** In the middle of the lane, as long as there is room. */
function add(where: Halt['where'], longM: number) {
  const m = Math.min(longM, lengthM.value)
  const fromM = Math.round((lengthM.value - m) / 2)
  set({ halts: [...route.value.halts, haltSchema.parse({ where, fromM, toM: fromM + Math.floor(m) })] })
}
const change = (k: number, values: (halt: object) => object, gesture?: string) =>
  set({ halts: route.value.halts.map((h, q) => (q === k ? { ...h, ...values(h) } : h)) }, gesture)
const titleOf = (halt: Halt) =>
  halt.where === 'on' ? 'Platform' : `${count(placesIn(halt), 'parking place')} on the ${halt.where}`
</script>

<template>
  <section class="mt-2 border-t border-rule pt-2" aria-label="Platforms and parking">
    <h3 class="label">platforms and parking</h3>
    <div v-for="(halt, k) in route.halts" :key="k" class="mt-1" role="group" :aria-label="`${titleOf(halt)}, ${k + 1}`">
      <p class="flex items-center justify-between text-[13px]">
        {{ titleOf(halt) }}
        <IconButton
          :label="`Take it away, ${k + 1}`"
          :icon="IconTrash"
          :disabled="route.locked"
          @click="set({ halts: route.halts.filter((_, q) => q !== k) })"
        />
      </p>
      <fieldset :disabled="route.locked">
        <ThingFields
          in="routes"
          :things="[{ id: `${id} ${k}`, thing: halt }]"
          :fields="fieldsIn(haltSchema, halt)"
          @set="(values, gesture) => change(k, values, gesture)"
          @done="release"
        />
        <ProfileChoice
          :chosen="halt.profileIds"
          label="who stands there; nobody ticked means everyone"
          @change="(profileIds) => change(k, () => ({ profileIds }))"
        />
      </fieldset>
    </div>
    <div class="mt-1 flex flex-wrap gap-1">
      <button class="btn" :disabled="full || route.locked" @click="add('on', PLATFORM_M)">Add a platform</button>
      <button class="btn" :disabled="full || route.locked" @click="add(levels.doc.settings.drivesOn, PARKING_M)">
        Add parking
      </button>
    </div>
  </section>
</template>
