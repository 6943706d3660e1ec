<script setup lang="ts">
import { crossingsOf, laneNet, walkNet } from '@tidytrail/core/traffic'
import { computed } from 'vue'
import { useThing } from '../card/use-thing'

/** Where a lane for walking leads over lanes for driving and who waits there, and which lanes for walking it is joined to. */
const props = defineProps<{ id: string }>()
const { levels, sheet, thing: route, set } = useThing('routes', () => props.id)
const CHOICES = [
  { value: 'vehicles', word: 'vehicles wait' },
  { value: 'walkers', word: 'walkers wait' },
] as const

const walks = computed(() => walkNet(levels.doc))
const crossings = computed(() =>
  crossingsOf(levels.doc, walks.value, laneNet(levels.doc)).filter((c) => c.laneId === props.id),
)
const joined = computed(() => {
  const { nodes, ways, along } = walks.value
  const ids = (along.get(props.id) ?? []).flatMap((n) => ways[n].map((w) => nodes[w.to].laneId))
  return [...new Set(ids)].filter((id) => id !== props.id).sort()
})
const nameOf = (id: string) => levels.doc.routes[id]?.name ?? 'a way between lanes'
const over = (c: (typeof crossings.value)[number]) => c.over.filter((o) => o.isLane)
const whole = Math.round
</script>

<template>
  <section class="mt-2 border-t border-rule pt-2 text-[13px]">
    <template v-if="crossings.length > 0">
      <h3 class="label">crossings</h3>
      <ul aria-label="Crossings">
        <li v-for="c in crossings" :key="c.id">
          {{ whole(c.fromM) }} to {{ whole(c.toM) }} m, over
          <template v-for="(o, k) in over(c)" :key="o.id"
            ><template v-if="k > 0">, </template
            ><button class="underline" @click="sheet.choose([o.id])">{{ nameOf(o.id) }}</button></template
          ><template v-if="over(c).length === 0">ways between lanes</template>
        </li>
      </ul>
      <div class="my-1 flex gap-1" role="group" aria-label="Who waits at its crossings">
        <button
          v-for="choice in CHOICES"
          :key="choice.value"
          class="btn"
          :class="route.atCrossings === choice.value ? 'bg-ink! text-sheet!' : ''"
          :aria-pressed="route.atCrossings === choice.value"
          :disabled="route.locked"
          @click="set({ atCrossings: choice.value })"
        >
          {{ choice.word }}
        </button>
      </div>
    </template>
    <p v-if="joined.length === 0" class="text-faded">No other lane for walking is joined to it.</p>
    <p v-else class="text-faded">
      Joined to
      <template v-for="(other, k) in joined" :key="other"
        ><template v-if="k > 0">, </template
        ><button class="underline" @click="sheet.choose([other])">{{ nameOf(other) }}</button></template
      >
    </p>
  </section>
</template>
