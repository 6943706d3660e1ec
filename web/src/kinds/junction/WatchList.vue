<script setup lang="ts">
import { laneNet, pairKey, watchOf, yieldIn, yieldKey, type Pair, type Way } from '@tidytrail/core/traffic'
import { computed } from 'vue'
import NumberField from '../../ui/NumberField.vue'
import { metres, seconds } from '../../ui/figures'
import { useThing } from '../card/use-thing'
import { useTrafficStore } from '../../stores/traffic'
import { planOf, wayWords } from './ways'

/** How far those who give way look up the other way, and how far they need to. */
const props = defineProps<{ id: string }>()
const { levels, thing: junction, set, release } = useThing('junctions', () => props.id)
const traffic = useTrafficStore()
const number = (id: string) => planOf(levels.doc, props.id).ways.findIndex((w) => w.id === id) + 1
const rows = computed(() => {
  const { pairs } = planOf(levels.doc, props.id)
  const net = laneNet(levels.doc)
  return pairs.flatMap((pair) => {
    const watch = watchOf(levels.doc, net, pair)
    const waits = yieldIn(pair)
    if (!watch || !waits) return []
    const { own, other, watchM: saidM } = waits
    const says = `${wayWords(levels.doc, own)} watches ${wayWords(levels.doc, other)}`
    const why = `At ${watch.approachMps.toFixed(1)} m/s one comes from there in ${seconds(watch.watchM / watch.approachMps)}; it takes ${seconds(watch.clearsS)} to set off and be out of the way.`
    return [{ pair, own, other, watch, says, why, saidM }]
  })
})
function say({ own, other }: { own: Way; other: Way }, watchM: number | null, gesture?: string): void {
  const key = pairKey(own.id, other.id)
  set({ yields: junction.value.yields.map((y) => (yieldKey(y) === key ? { ...y, watchM } : y)) }, gesture)
}
const point = (pair?: Pair) => (traffic.pair = pair && [pair.a.id, pair.b.id])
</script>

<template>
  <details v-if="rows.length > 0" class="mt-2" data-testid="watches">
    <summary class="label cursor-pointer">what those who give way watch</summary>
    <ul>
      <li
        v-for="row in rows"
        :key="`${row.own.id} ${row.other.id}`"
        class="row items-end py-0.5"
        :title="`${row.says}. ${row.why}`"
        @mouseenter="point(row.pair)"
        @mouseleave="point()"
        @focusin="point(row.pair)"
        @focusout="point()"
      >
        <NumberField
          class="w-28"
          :label="`${number(row.own.id)} ▽ ${number(row.other.id)} looks`"
          unit="m"
          :step="1"
          :digits="0"
          :min="1"
          :max="2000"
          clearable
          :none="row.saidM === null ? `${row.watch.needM.toFixed(0)}` : undefined"
          :value="row.saidM"
          @change="(v, g) => say(row, v, g)"
          @done="release"
          @clear="say(row, null)"
        />
        <span
          class="min-w-0 flex-1 pb-1"
          :class="row.watch.short ? 'font-bold text-alarm' : 'text-faded'"
          data-testid="watch-says"
        >
          {{
            row.watch.short
              ? `${row.why} It needs ${metres(row.watch.needM)}.`
              : row.saidM === null
                ? 'as far as needed'
                : 'far enough'
          }}
        </span>
      </li>
    </ul>
  </details>
</template>
