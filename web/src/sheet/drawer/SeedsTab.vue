<script setup lang="ts">
import { trialWords, type Spread } from '@tidytrail/core/insight'
import { computed, onMounted, ref } from 'vue'
import { useLevelStore } from '../../stores/level'
import { useRehearsalStore } from '../../stores/rehearsal'
import { useSeedsStore } from '../../stores/seeds'
import { axisLook, tipLook, useChartInks } from '../../ui/chart-inks'
import EChart from '../../ui/EChart.vue'
import { count } from '../../ui/figures'
import NumberField from '../../ui/NumberField.vue'

/** Many seeds: how its figures are spread over them, which pass, and the odd ones a click from being replayed. */
const seeds = useSeedsStore()
const levels = useLevelStore()
const rehearsal = useRehearsalStore()
const inks = useChartInks()
const many = ref(20)
const first = ref(levels.level?.settings.seed ?? 1)
const picked = ref('')
onMounted(() => seeds.resume())

const running = computed(() => seeds.state === 'running')
const figure = computed<Spread | undefined>(
  () =>
    seeds.spread.find((s) => s.name === picked.value) ??
    seeds.spread.find((s) => s.greatest > s.least) ??
    seeds.spread[0],
)
const replay = (seed: number) => rehearsal.begin(seed)
const round = (v: number) => +v.toFixed(Math.abs(v) < 10 ? 2 : 1)

/** How often the figure lies where: a bar for each of a dozen stretches. */
const bars = computed(() => {
  const of = figure.value
  if (!of) return {}
  const values = seeds.runs.flatMap((run) =>
    run.figures.filter((f) => f.name === of.name).map((f) => ({ v: f.value, seed: run.seed })),
  )
  const wide = (of.greatest - of.least || 1) / 12
  const classes = Array.from({ length: 12 }, (_, k) => ({ from: of.least + k * wide, seeds: [] as number[] }))
  for (const { v, seed } of values) classes[Math.min(11, Math.floor((v - of.least) / wide))].seeds.push(seed)
  return {
    animation: false,
    grid: { left: 34, right: 8, top: 8, bottom: 20 },
    tooltip: { ...tipLook(inks.value), trigger: 'item' },
    xAxis: { type: 'category', data: classes.map((c) => String(round(c.from))), ...axisLook(inks.value) },
    yAxis: { type: 'value', minInterval: 1, ...axisLook(inks.value) },
    series: [
      {
        type: 'bar',
        barCategoryGap: '12%',
        itemStyle: { color: inks.value.lake },
        data: classes.map((c) => ({
          value: c.seeds.length,
          tip: `${round(c.from)} to ${round(c.from + wide)} ${of.unit}: ${c.seeds.length > 0 ? `seeds ${c.seeds.slice(0, 8).join(', ')}${c.seeds.length > 8 ? ' …' : ''}` : 'none'}`,
        })),
        tooltip: { formatter: (p: { data: { tip: string } }) => p.data.tip },
      },
    ],
  }
})
const trials = computed(() =>
  [...seeds.pass.trials].flatMap(([id, of]) => {
    const trial = levels.doc.trials[id]
    return trial ? [{ id, words: trial.name || trialWords(levels.doc, trial), ...of }] : []
  }),
)
</script>

<template>
  <div class="flex min-h-0 flex-1 gap-4 px-3 pb-2 text-[12.5px]">
    <div class="flex w-44 shrink-0 flex-col gap-1.5">
      <div class="grid grid-cols-2 gap-2">
        <NumberField
          label="seeds"
          :value="many"
          :min="2"
          :max="1000"
          :digits="0"
          :step="0.2"
          @change="(v) => (many = Math.round(v))"
        />
        <NumberField
          label="from seed"
          :value="first"
          :min="0"
          :max="2000000000"
          :digits="0"
          :step="0.05"
          @change="(v) => (first = Math.round(v))"
        />
      </div>
      <button v-if="!running" class="btn btn-main self-start" @click="seeds.start(first, many)">
        Rehearse with {{ many }} seeds
      </button>
      <button v-else class="btn self-start" @click="seeds.cancel()">Cancel</button>
      <p v-if="seeds.state !== 'idle'" role="status" data-testid="seeds-state">
        <span
          class="mb-1 block h-2 border border-ink"
          role="progressbar"
          aria-label="Seeds rehearsed"
          aria-valuemin="0"
          :aria-valuenow="seeds.runs.length"
          :aria-valuemax="seeds.total"
        >
          <span class="block h-full bg-pine" :style="{ width: `${(100 * seeds.runs.length) / (seeds.total || 1)}%` }" />
        </span>
        {{ seeds.runs.length }} of {{ seeds.total }}
        {{
          running ? (seeds.where === 'page' ? 'here, as the server cannot be reached' : 'on the server') : seeds.state
        }}
      </p>
      <p v-if="seeds.why" class="text-alarm">{{ seeds.why }}</p>
      <p v-if="seeds.runs.length > 0 && !seeds.current" class="text-ochre">The level has changed since.</p>
      <p v-if="seeds.runs.length > 0" class="text-[15px]" data-testid="seeds-pass">
        <b>{{ seeds.pass.passed }} of {{ seeds.pass.runs }}</b> pass
      </p>
      <button v-if="seeds.worst !== undefined" class="btn self-start" @click="replay(seeds.worst)">
        Replay the worst, seed {{ seeds.worst }}
      </button>
    </div>
    <p v-if="seeds.runs.length === 0" class="m-auto max-w-80 text-faded">
      Once is luck. Rehearse the level with many seeds, and see how far its figures lie apart and how often it passes.
    </p>
    <template v-else>
      <div class="min-w-0 flex-1 overflow-y-auto">
        <table class="w-full border-collapse" data-testid="spreads">
          <thead class="sticky top-0 bg-sheet text-left text-faded">
            <tr>
              <th class="font-normal">figure</th>
              <th class="text-right font-normal">least</th>
              <th class="text-right font-normal">middle</th>
              <th class="text-right font-normal">greatest</th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="s in seeds.spread"
              :key="s.name"
              class="border-t border-rule"
              :class="s === figure ? 'bg-tint' : ''"
            >
              <td class="max-w-28 truncate">
                <button class="text-left hover:underline" :title="s.name" @click="picked = s.name">{{ s.name }}</button>
              </td>
              <td class="text-right">
                <button class="underline" :title="`Replay seed ${s.leastSeed}`" @click="replay(s.leastSeed)">
                  {{ round(s.least) }}
                </button>
              </td>
              <td class="text-right">{{ round(s.middle) }}</td>
              <td class="text-right whitespace-nowrap">
                <button class="underline" :title="`Replay seed ${s.greatestSeed}`" @click="replay(s.greatestSeed)">
                  {{ round(s.greatest) }}
                </button>
                {{ s.unit.slice(0, 3) }}
              </td>
            </tr>
          </tbody>
        </table>
        <ul v-if="trials.length > 0" class="mt-2 border-t border-rule pt-1">
          <li v-for="t in trials" :key="t.id" class="mt-0.5">
            <b :class="t.failed.length > 0 ? 'text-alarm' : 'text-pine'">{{ t.held }} of {{ count(t.told, 'run') }}</b>
            {{ t.words }}
            <button v-for="s in t.failed.slice(0, 5)" :key="s" class="ml-1 underline" @click="replay(s)">
              seed {{ s }}
            </button>
          </li>
        </ul>
      </div>
      <div v-if="figure" class="flex w-48 shrink-0 flex-col">
        <p class="truncate text-faded" :title="figure.name">
          {{ figure.name }}{{ figure.unit ? `, ${figure.unit}` : '' }}: how many runs
        </p>
        <EChart
          :option="bars"
          :label="`${figure.name} over ${seeds.runs.length} seeds: from ${round(figure.least)} to ${round(figure.greatest)}, middle ${round(figure.middle)}`"
        />
      </div>
    </template>
  </div>
</template>
