<script setup lang="ts">
import { phaseSchema, type Phase } from '@tidytrail/core/level'
import { cycleS, laneNet, lightAt, phaseS, stageAt, UNKNOWN_PER_H, usualPhases } from '@tidytrail/core/traffic'
import { computed } from 'vue'
import NumberField from '../../ui/NumberField.vue'
import { seconds } from '../../ui/figures'
import { useThing } from '../card/use-thing'
import { useInsightStore } from '../../stores/insight'
import { useTrafficStore } from '../../stores/traffic'
import { shownAt, type Shown } from './ways'

/** The stages of signals as bars over their cycle, scrubbed without running anything. */
const props = defineProps<{ id: string }>()
const { levels, thing: junction, set, release } = useThing('junctions', () => props.id)
const traffic = useTrafficStore()
const insight = useInsightStore()
/** The clock is turned so far at a time, seconds; with the end of a cycle the next has begun. */
const STEP_S = 0.5
const shown = computed(() => shownAt(levels.doc, props.id))
const cycle = computed(() => cycleS(junction.value))
const t = computed({
  get: () => Math.min(traffic.t, cycle.value),
  set: (value: number) => (traffic.t = value),
})
const stage = computed(() => stageAt(junction.value, t.value))
const stageName = (k: number) => junction.value.phases[k].name || `Stage ${k + 1}`

/** Spans of one light for a way or a crossing over the cycle, as shares of it. */
function bars({ id }: Shown): { from: number; to: number; light: string }[] {
  const spans: { from: number; to: number; light: string }[] = []
  const all = cycle.value
  if (!(all > 0)) return spans
  const edges = [0, all]
  let s = junction.value.offsetS % all
  for (const phase of junction.value.phases) {
    for (const d of [0, phase.greenS, phase.greenS + phase.amberS]) edges.push((((s + d) % all) + all) % all)
    s += phaseS(phase)
  }
  edges.sort((a, b) => a - b)
  for (let k = 1; k < edges.length; k++) {
    if (edges[k] - edges[k - 1] < 1e-6) continue
    const light = lightAt(junction.value, id, (edges[k] + edges[k - 1]) / 2)
    spans.push({ from: edges[k - 1] / all, to: edges[k] / all, light })
  }
  return spans
}
const change = (k: number, values: Partial<Phase>, gesture?: string) =>
  set({ phases: junction.value.phases.map((p, j) => (j === k ? { ...p, ...values } : p)) }, gesture)
const has = (phase: Phase, { id, list }: Shown) => phase[list].includes(id)
function toggle(k: number, { id, list }: Shown): void {
  const named = junction.value.phases[k][list]
  change(k, { [list]: named.includes(id) ? named.filter((w) => w !== id) : [...named, id] })
}
/** How many an hour came along each approach in the rehearsal; a counted flow is better than a guessed one. */
const counted = computed(
  () => new Map(insight.traffic?.approaches.flatMap((a) => (a.junctionId === props.id ? [[a.laneId, a.perH] as const] : []))), // prettier-ignore
)
const suggest = () =>
  set({ phases: usualPhases(levels.doc, laneNet(levels.doc), junction.value, (laneId) => counted.value.get(laneId)) })
const add = () => set({ phases: [...junction.value.phases, phaseSchema.parse({})] })
const drop = (k: number) => set({ phases: junction.value.phases.filter((_, j) => j !== k) })
/** The spans of a stage: what they are called, and how long each may be, seconds. */
const SPANS = { greenS: 600, amberS: 60, allRedS: 60 } as const
const phaseFields = { greenS: 'green', amberS: 'amber', allRedS: 'all red' } as const
const FILL: Record<string, string> = { green: 'fill-pine', amber: 'fill-ochre', red: 'fill-rule' }
</script>

<template>
  <section aria-label="Signal plan">
    <h3 class="mt-3 border-t border-rule pt-2 text-[15px]">Signal plan</h3>
    <template v-if="cycle > 0">
      <svg
        :viewBox="`0 0 240 ${shown.length * 9 + 2}`"
        class="mt-1 w-full"
        role="img"
        :aria-label="`The lights of ${shown.length} ways over ${seconds(cycle)}`"
      >
        <g v-for="(one, r) in shown" :key="one.id">
          <title>{{ one.words }}</title>
          <text x="10" :y="r * 9 + 8" text-anchor="end" class="fill-ink text-[8px]">{{ one.sign }}</text>
          <rect
            v-for="(bar, k) in bars(one)"
            :key="k"
            :x="14 + bar.from * 224"
            :y="r * 9 + (bar.light === 'red' ? 4.5 : 1.5)"
            :width="Math.max(0, (bar.to - bar.from) * 224 - 0.5)"
            :height="bar.light === 'red' ? 1.5 : 7"
            :class="FILL[bar.light]"
          />
        </g>
        <path
          :d="`M${14 + (t / cycle) * 224} 0V${shown.length * 9 + 2}`"
          class="stroke-rust"
          stroke-width="1.4"
          fill="none"
        />
      </svg>
      <label class="mt-1 block">
        <span class="label" data-testid="signal-clock"
          >{{ seconds(t) }} of {{ seconds(cycle) }}{{ stage ? `, ${stageName(stage.index)}` : '' }}</span
        >
        <input
          v-model.number="t"
          type="range"
          class="w-full accent-pine"
          min="0"
          :max="cycle - STEP_S"
          :step="STEP_S"
          aria-label="Time in the cycle"
        />
      </label>
    </template>
    <p v-else class="text-faded">It has no stage of any length, so that all see red.</p>
    <ol class="mt-1">
      <li v-for="(phase, k) in junction.phases" :key="k" class="border-t border-dotted border-rule py-1.5">
        <p class="flex items-center justify-between">
          <b>{{ stageName(k) }}</b>
          <button class="btn" :aria-label="`Take out ${stageName(k)}`" @click="drop(k)">Take out</button>
        </p>
        <div class="grid grid-cols-3 gap-x-2">
          <NumberField
            v-for="(most, key) in SPANS"
            :key="key"
            :label="phaseFields[key]"
            unit="s"
            :value="phase[key]"
            :min="0"
            :max="most"
            :digits="1"
            @change="(v, g) => change(k, { [key]: v }, g)"
            @done="release"
          />
        </div>
        <p class="label mt-1">with green</p>
        <p class="flex flex-wrap gap-1">
          <button
            v-for="one in shown"
            :key="one.id"
            class="min-w-6 border border-rule px-1 text-[12px]"
            :class="has(phase, one) ? 'bg-pine font-bold text-sheet' : ''"
            :aria-pressed="has(phase, one)"
            :aria-label="`Way ${one.sign}, ${one.words}`"
            :title="one.words"
            @click="toggle(k, one)"
          >
            {{ one.sign }}
          </button>
        </p>
      </li>
    </ol>
    <div class="mt-1 flex flex-wrap gap-1.5">
      <button class="btn" @click="add">Add a stage</button>
      <button
        class="btn"
        title="Those who face each other together, lengths by Webster (1958) for the flows"
        @click="suggest"
      >
        Suggest a plan
      </button>
    </div>
    <p class="mt-1 text-[13px] text-faded" data-testid="plan-flows">
      {{
        counted.size > 0
          ? `By what the rehearsal counted: ${[...counted.values()].map((n) => Math.round(n)).join(', ')} an hour.`
          : `With ${UNKNOWN_PER_H} an hour from each side, until a rehearsal has counted.`
      }}
    </p>
  </section>
</template>
