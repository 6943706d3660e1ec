<script setup lang="ts">
import type { SlowPlace } from '@tidytrail/core/insight'
import { placeAt, laneNet } from '@tidytrail/core/traffic'
import { computed, ref } from 'vue'
import { useInsightStore } from '../../stores/insight'
import { useLevelStore } from '../../stores/level'
import { useRehearsalStore } from '../../stores/rehearsal'
import { useSheetStore } from '../../stores/sheet'
import { clock, count, seconds } from '../../ui/figures'
import CounterCharts from './CounterCharts.vue'
import { limitShort } from './limit-short'

/** What a rehearsal tells of traffic: counters as charts, queues by approach, and where most time is lost. */
const insight = useInsightStore()
const levels = useLevelStore()
const rehearsal = useRehearsalStore()
const sheet = useSheetStore()
const VIEWS = { counters: 'Counters', approaches: 'Queues', slow: 'Slowest places' } as const
const view = ref<keyof typeof VIEWS>('counters')
const traffic = computed(() => insight.traffic)
const counters = computed(() => Object.keys(levels.doc.counters).filter((id) => traffic.value?.counters[id]))
const picked = computed(() =>
  sheet.chosen && counters.value.includes(sheet.chosen) ? sheet.chosen : counters.value[0],
)
const laneName = (id: string) => levels.doc.routes[id]?.name ?? 'a lane that is gone'
const approaches = computed(() =>
  [...(traffic.value?.approaches ?? [])].sort((a, b) => b.meanS * b.count - a.meanS * a.count),
)
function show({ laneId, fromM, toM }: SlowPlace): void {
  const lane = laneNet(levels.doc).lanes.get(laneId)
  if (!lane) return
  const [x, y] = placeAt(lane.line, (fromM + toM) / 2)
  insight.pointed = [x, y]
}
const causes = ({ causes: all }: SlowPlace) =>
  all
    .filter((c) => c.share >= 0.1)
    .map((c) => `${limitShort(c.limit)} ${Math.round(100 * c.share)} %`)
    .join(', ')
</script>

<template>
  <div class="flex min-h-0 flex-1 gap-3 px-3 pb-2 text-[12.5px]">
    <div class="flex w-40 shrink-0 flex-col gap-1 overflow-y-auto">
      <div class="flex flex-wrap gap-1" role="group" aria-label="What is shown of traffic">
        <button
          v-for="(word, key) in VIEWS"
          :key="key"
          class="btn text-left"
          :aria-pressed="view === key"
          :class="view === key ? 'border-ink! bg-tint font-bold' : ''"
          @click="view = key"
        >
          {{ word }}
        </button>
      </div>
      <ul v-if="traffic && view === 'counters'" aria-label="Counters">
        <li v-for="id in counters" :key="id">
          <button
            class="block w-full truncate text-left"
            :class="id === picked ? 'font-bold' : 'hover:underline'"
            :aria-current="id === picked"
            @click="sheet.choose([id])"
          >
            {{ levels.doc.counters[id].name }} · {{ Math.round(traffic.counters[id].perH) }}/h
          </button>
        </li>
      </ul>
      <button
        v-for="ring in traffic?.gridlocks"
        :key="`${ring.fromS} ${ring.keys.join()}`"
        class="btn border-alarm! text-left text-alarm!"
        @click="rehearsal.seek(ring.fromS)"
      >
        Gridlock of {{ ring.keys.length }} from {{ clock(ring.fromS) }}
      </button>
    </div>
    <p v-if="!traffic" class="m-auto text-faded">
      {{ rehearsal.begun ? 'Counting …' : 'Rehearse, to see how traffic flows.' }}
    </p>
    <template v-else-if="view === 'counters'">
      <p v-if="!picked" class="m-auto max-w-80 text-faded">
        No counter stands on a lane yet. Take one in hand with N and click on a lane.
      </p>
      <CounterCharts v-else :figures="traffic.counters[picked]" :name="levels.doc.counters[picked].name" />
    </template>
    <div v-else-if="view === 'approaches'" class="min-w-0 flex-1 overflow-y-auto">
      <p v-if="approaches.length === 0" class="text-faded">No lane leads to a junction.</p>
      <table v-else class="w-full border-collapse" data-testid="approaches">
        <thead class="sticky top-0 bg-sheet text-left text-faded">
          <tr>
            <th class="font-normal">approach</th>
            <th class="font-normal">junction</th>
            <th class="text-right font-normal">passed</th>
            <th class="text-right font-normal">stopped</th>
            <th class="text-right font-normal">waits</th>
            <th class="text-right font-normal">95th</th>
            <th class="text-right font-normal">queue</th>
            <th class="text-right font-normal">longest</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="a in approaches" :key="`${a.junctionId} ${a.laneId}`" class="border-t border-rule">
            <td class="max-w-40 truncate">
              <button class="hover:underline" @click="sheet.choose([a.laneId])">{{ laneName(a.laneId) }}</button>
            </td>
            <td class="max-w-32 truncate">{{ levels.doc.junctions[a.junctionId]?.name }}</td>
            <td class="text-right">{{ a.count }}</td>
            <td class="text-right">{{ a.count > 0 ? Math.round((100 * a.stopped) / a.count) : 0 }} %</td>
            <td class="text-right whitespace-nowrap">{{ seconds(a.meanS) }}</td>
            <td class="text-right whitespace-nowrap">{{ seconds(a.p95S) }}</td>
            <td class="text-right">{{ a.queueMean.toFixed(1) }}</td>
            <td class="text-right">{{ a.queueMost }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <div v-else class="min-w-0 flex-1 overflow-y-auto">
      <p v-if="traffic.slowest.length === 0" class="text-faded">Nobody loses any time.</p>
      <table v-else class="w-full border-collapse" data-testid="slowest">
        <thead class="sticky top-0 bg-sheet text-left text-faded">
          <tr>
            <th class="font-normal">place</th>
            <th class="text-right font-normal">lost</th>
            <th class="text-right font-normal">by</th>
            <th class="pl-3 font-normal">what holds them</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in traffic.slowest" :key="`${s.laneId} ${s.fromM}`" class="border-t border-rule">
            <td class="max-w-48 truncate">
              <button
                class="hover:underline"
                @click="sheet.choose([s.laneId])"
                @mouseenter="show(s)"
                @mouseleave="insight.pointed = undefined"
                @focus="show(s)"
                @blur="insight.pointed = undefined"
              >
                {{ laneName(s.laneId) }}, {{ s.fromM }} to {{ s.toM }} m
              </button>
            </td>
            <td class="pr-2 text-right whitespace-nowrap">{{ seconds(s.lostS) }}</td>
            <td class="text-right whitespace-nowrap">{{ count(s.vehicles, 'vehicle') }}</td>
            <td class="pl-3">{{ causes(s) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>
