<script setup lang="ts">
import { CHANGE_SIDES, MOST_NO_CHANGE, type Route } from '@tidytrail/core/level'
import { laneNet, lanesBeside } from '@tidytrail/core/traffic'
import { IconTrash } from '@tabler/icons-vue'
import { computed } from 'vue'
import IconButton from '../../ui/IconButton.vue'
import NumberField from '../../ui/NumberField.vue'
import { useThing } from '../card/use-thing'

/** The lanes beside a lane, and where it may not be changed into them. */
const props = defineProps<{ id: string }>()
const { levels, sheet, thing: route, set, release } = useThing('routes', () => props.id)
type Kept = Route['noChange'][number]
const SIDE_WORDS = { both: 'both sides', left: 'the left', right: 'the right' }
/** Before a junction lanes are kept to over so long, metres. */
const BEFORE_END_M = 30

const net = computed(() => laneNet(levels.doc))
const lengthM = computed(() => net.value.lanes.get(props.id)?.line.lengthM ?? 0)
const beside = computed(() => lanesBeside(net.value).get(props.id) ?? [])
const full = computed(() => route.value.noChange.length >= MOST_NO_CHANGE)
const add = (fromM: number, toM: number) =>
  set({ noChange: [...route.value.noChange, { fromM: Math.round(fromM * 10) / 10, toM: Math.round(toM * 10) / 10, side: 'both' }] }) // prettier-ignore
const change = (k: number, values: Partial<Kept>, gesture?: string) =>
  set({ noChange: route.value.noChange.map((s, q) => (q === k ? { ...s, ...values } : s)) }, gesture)
const nameOf = (id: string) => levels.doc.routes[id]?.name ?? '?'
</script>

<template>
  <section v-if="beside.length > 0 || route.noChange.length > 0" class="mt-2 border-t border-rule pt-2">
    <h3 class="label">changing lanes</h3>
    <p v-if="beside.length === 0" class="text-[13px] text-faded">No lane lies beside it that leads the same way.</p>
    <ul class="text-[13px]" aria-label="Lanes beside it">
      <li v-for="b in beside" :key="`${b.id} ${b.fromM}`">
        <button class="underline" @click="sheet.choose([b.id])">{{ nameOf(b.id) }}</button>
        on the {{ b.side === 1 ? 'left' : 'right' }}, {{ Math.round(b.fromM) }} to {{ Math.round(b.toM) }} m
      </li>
    </ul>
    <div
      v-for="(s, k) in route.noChange"
      :key="k"
      class="mt-1 flex flex-wrap items-end gap-x-2 gap-y-1"
      role="group"
      :aria-label="`No changing, ${k + 1}`"
    >
      <NumberField
        class="w-[45%]"
        :label="k === 0 ? 'not from' : `not from, ${k + 1}`"
        unit="m"
        :step="1"
        :digits="1"
        :min="0"
        :value="s.fromM"
        @change="(v, g) => change(k, { fromM: Math.min(v, s.toM) }, g)"
        @done="release"
      />
      <NumberField
        class="w-[45%]"
        :label="k === 0 ? 'to' : `to, ${k + 1}`"
        unit="m"
        :step="1"
        :digits="1"
        :min="0"
        :value="s.toM"
        @change="(v, g) => change(k, { toM: Math.max(v, s.fromM) }, g)"
        @done="release"
      />
      <select
        class="field min-w-0 flex-1"
        :aria-label="`Which side, ${k + 1}`"
        :value="s.side"
        @change="change(k, { side: ($event.target as HTMLSelectElement).value as Kept['side'] })"
      >
        <option v-for="side in CHANGE_SIDES" :key="side" :value="side">{{ SIDE_WORDS[side] }}</option>
      </select>
      <IconButton
        :label="`Allow changing again, ${k + 1}`"
        :icon="IconTrash"
        @click="set({ noChange: route.noChange.filter((_, q) => q !== k) })"
      />
    </div>
    <div class="mt-2 flex gap-1">
      <button class="btn" :disabled="full" @click="add(0, lengthM)">Keep to it</button>
      <button class="btn" :disabled="full" @click="add(Math.max(0, lengthM - BEFORE_END_M), lengthM)">
        … on the last {{ BEFORE_END_M }} m
      </button>
    </div>
  </section>
</template>
