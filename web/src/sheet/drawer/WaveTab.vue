<script setup lang="ts">
import { setThings } from '@tidytrail/core/level'
import {
  corridorOf,
  cycleS,
  greensOf,
  laneNet,
  oneCycle,
  waveOf,
  waveOffsets,
  type Band,
  type Corridor,
} from '@tidytrail/core/traffic'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { useInsightStore } from '../../stores/insight'
import { useLevelStore } from '../../stores/level'
import { useRehearsalStore } from '../../stores/rehearsal'
import { useSheetStore } from '../../stores/sheet'
import { clock, seconds } from '../../ui/figures'
import NumberField from '../../ui/NumberField.vue'
import { lanesBetween, onWayOut, waveThreads, type WaveThread } from './wave-threads'
import { waveWays } from './wave-ways'

/** Time to the right, distance up: the greens of signals one comes by, who meets green all along, and who drove there. */
const insight = useInsightStore()
const levels = useLevelStore()
const rehearsal = useRehearsalStore()
const sheet = useSheetStore()
const picked = ref<string>()
const ways = computed(() => waveWays(levels.doc, sheet.chosen))
const laneId = computed(() => (picked.value && ways.value.includes(picked.value) ? picked.value : ways.value[0]))
const net = computed(() => laneNet(levels.doc))
const corridor = computed(() => corridorOf(levels.doc, net.value, laneId.value))
const wave = computed(() => waveOf(levels.doc, net.value, laneId.value))
const whole = computed(() => ('why' in wave.value ? undefined : wave.value))
const why = computed(() => ('why' in wave.value ? wave.value.why : ''))
const longest = computed(() =>
  Math.max(...corridor.value.signals.map((s) => cycleS(levels.doc.junctions[s.junctionId]))),
)
const nameOf = (id: string) => levels.doc.junctions[id].name
const wayName = (id: string) => {
  const names = corridorOf(levels.doc, net.value, id).signals.map((s) => nameOf(s.junctionId))
  return `${names[0]} to ${names[names.length - 1]}`
}

function setAll(changes: Record<string, object>, word: string, gesture?: string): void {
  const things = Object.entries(changes).map(([id, set]) => ({ in: 'junctions' as const, id, set }))
  levels.perform(setThings, { things, word }, gesture)
}
function widen(both: boolean): void {
  if (!whole.value) return
  const offsets = waveOffsets(levels.doc, whole.value, both)
  setAll(Object.fromEntries(Object.entries(offsets).map(([id, offsetS]) => [id, { offsetS }])), 'Set the green wave of')
}
const shift = (id: string, s: number, gesture: string | undefined) =>
  setAll({ [id]: { offsetS: s } }, 'Change', gesture)

/** The sheet: so many units wide and high, and where the plot lies in it. */
const WIDE = 450
const HIGH = 180
const LEFT = 84
const BELOW = 16
/** So many cycles are shown. */
const CYCLES = 2.5
const spanS = computed(() => CYCLES * (whole.value?.cycleS ?? 60))
const x = (s: number) => LEFT + (s / spanS.value) * (WIDE - LEFT - 4)
const y = (m: number) => {
  const { signals } = corridor.value
  const [from, to] = [signals[0].atM, signals[signals.length - 1].atM]
  return HIGH - BELOW - 10 - ((m - from) / Math.max(1, to - from)) * (HIGH - BELOW - 18)
}
const tickS = computed(() => [5, 10, 20, 30, 60, 120].find((s) => spanS.value / s <= 12) ?? 300)
const ticks = computed(() =>
  Array.from({ length: Math.floor(spanS.value / tickS.value) + 1 }, (_, k) => k * tickS.value),
)

/** Where along the way out a junction lies, metres. */
const placeOf = (junctionId: string) => corridor.value.signals.find((s) => s.junctionId === junctionId)!.atM

/** The time at the left: the beginning of the cycle before the moment that is looked at. */
const fromS = computed(() => {
  const cycle = whole.value?.cycleS ?? 60
  return Math.max(0, Math.floor(rehearsal.t / cycle) - 1) * cycle
})
watch(
  () => [whole.value?.out, whole.value?.back].flatMap((of) => (of ? lanesBetween(of) : [])),
  (ids, before) => {
    if (ids.join(' ') !== before?.join(' ')) insight.routeIds = [...new Set(ids)]
  },
  { immediate: true },
)
// Lines nobody looks at are not to be worked out again and again.
onBeforeUnmount(() => (insight.routeIds = []))
/** Those who drove there, as lines. */
const threads = computed(() => {
  if (!whole.value) return []
  const { out, back } = whole.value
  const drawn = (of: Corridor, height: (m: number) => number) =>
    waveThreads(of, net.value, insight.strings, fromS.value, fromS.value + spanS.value).map(
      ({ places }: WaveThread) => `M${places.map(([t, m]) => `${x(t - fromS.value).toFixed(1)} ${y(height(m)).toFixed(1)}`).join('L')}`, // prettier-ignore
    )
  return [
    ...drawn(out, (m) => m).map((d) => ({ d, back: false })),
    ...(back ? drawn(back, onWayOut(back, out)).map((d) => ({ d, back: true })) : []),
  ]
})

/** The greens of a way over all that is shown, as bars. */
function bars(of: Corridor): { key: string; x: number; y: number; width: number }[] {
  const cycle = whole.value!.cycleS
  return of.signals.flatMap(({ junctionId, wayId }) =>
    greensOf(levels.doc.junctions[junctionId], wayId).flatMap(([from, to], q) =>
      Array.from({ length: Math.ceil(CYCLES) }, (_, c) => ({
        key: `${junctionId} ${q} ${c}`,
        x: x(from + c * cycle),
        y: y(placeOf(junctionId)),
        width: Math.max(0, x(Math.min(spanS.value, to + c * cycle)) - x(from + c * cycle)),
      })).filter((b) => b.width > 0),
    ),
  )
}
/** A band as an outline, from its first signal to its last, in each cycle that is shown. */
function outlines(of: Corridor, band: Band): string[] {
  if (band.widthS <= 0) return []
  const cycle = whole.value!.cycleS
  const along = of.signals.map((s) => [s.atS, placeOf(s.junctionId)] as const)
  return [-1, 0, 1, 2].map((c) => {
    const edge = (late: number) =>
      along.map(([s, m]) => `${x(band.fromS + late + s + c * cycle).toFixed(1)} ${y(m).toFixed(1)}`)
    return `M${edge(0).join('L')}L${edge(band.widthS).reverse().join('L')}Z`
  })
}
const bands = computed(() => {
  if (!whole.value) return []
  const { out, back, bands: wide } = whole.value
  return [
    ...outlines(out, wide.out).map((d) => ({ d, back: false })),
    ...(back ? outlines(back, wide.back!).map((d) => ({ d, back: true })) : []),
  ]
})
const told = computed(() => {
  if (!whole.value) return why.value
  const { bands, cycleS: cycle, back } = whole.value
  const of = (band: Band) => (band.widthS > 0 ? `${seconds(band.widthS)} of ${seconds(cycle)}` : 'nobody')
  return `Green all along: ${of(bands.out)} on the way up${back ? `, ${of(bands.back!)} on the way back` : '; no way leads back'}.`
})
</script>

<template>
  <div class="flex min-h-0 flex-1 gap-3 px-3 pb-2 text-[12.5px]">
    <p v-if="!laneId" class="m-auto text-faded">Choose a lane or a junction with signals on whose way lies another.</p>
    <template v-else>
      <div class="flex w-56 shrink-0 flex-col gap-1 overflow-y-auto">
        <select
          v-if="ways.length > 1"
          class="field shrink-0"
          aria-label="Way of the green wave"
          :value="laneId"
          @change="picked = ($event.target as HTMLSelectElement).value"
        >
          <option v-for="id in ways" :key="id" :value="id">{{ wayName(id) }}</option>
        </select>
        <p data-testid="wave-told">{{ told }}</p>
        <div v-if="whole" class="flex flex-wrap gap-1">
          <button class="btn" title="As many as possible meet green on the way up" @click="widen(false)">
            One way
          </button>
          <button v-if="whole.back" class="btn" title="Both ways together meet green for longest" @click="widen(true)">
            Both ways
          </button>
        </div>
        <button v-else class="btn" @click="setAll(oneCycle(levels.doc, corridor), 'Give one cycle to')">
          Give all of them {{ seconds(longest) }}
        </button>
        <NumberField
          v-for="s in corridor.signals"
          :key="s.junctionId"
          class="shrink-0"
          :label="`${nameOf(s.junctionId)} begins at`"
          unit="s"
          :step="1"
          :digits="1"
          :min="0"
          :value="levels.doc.junctions[s.junctionId].offsetS"
          @change="(v, g) => shift(s.junctionId, v, g)"
          @done="levels.release()"
        />
      </div>
      <svg
        v-if="whole"
        :viewBox="`0 0 ${WIDE} ${HIGH}`"
        class="min-h-0 min-w-0 flex-1"
        role="img"
        :aria-label="told"
        preserveAspectRatio="xMidYMid meet"
      >
        <clipPath id="wave-plot"><rect :x="LEFT" y="0" :width="WIDE - LEFT - 4" :height="HIGH" /></clipPath>
        <g clip-path="url(#wave-plot)">
          <path
            v-for="(band, k) in bands"
            :key="k"
            :d="band.d"
            :class="band.back ? 'fill-plum stroke-plum' : 'fill-lake stroke-lake'"
            fill-opacity="0.2"
            stroke-width="0.8"
          />
          <path
            v-for="(line, k) in threads"
            :key="`t${k}`"
            :d="line.d"
            data-testid="wave-thread"
            fill="none"
            :class="line.back ? 'stroke-plum' : 'stroke-ink'"
            stroke-width="0.9"
            stroke-opacity="0.75"
          />
        </g>
        <g v-for="s in corridor.signals" :key="s.junctionId">
          <path :d="`M${LEFT} ${y(s.atM)}H${WIDE - 4}`" class="stroke-rule" stroke-width="1" fill="none" />
          <text :x="LEFT - 5" :y="y(s.atM) + 3.5" text-anchor="end" class="fill-ink text-[11px]">
            {{ nameOf(s.junctionId).slice(0, 14) }}
          </text>
        </g>
        <!-- Green on the way up above the line of its signal, on the way back below. -->
        <rect
          v-for="b in bars(whole.out)"
          :key="b.key"
          :x="b.x"
          :y="b.y - 4"
          :width="b.width"
          height="3.5"
          class="fill-pine"
        />
        <!-- prettier-ignore -->
        <template v-if="whole.back">
          <rect v-for="b in bars(whole.back)" :key="b.key" :x="b.x" :y="b.y + 0.5" :width="b.width" height="3.5" class="fill-pine" fill-opacity="0.55" /> <!-- prettier-ignore -->
        </template>
        <g v-for="s in ticks" :key="s">
          <path :d="`M${x(s)} ${HIGH - BELOW}v3`" class="stroke-faded" stroke-width="1" fill="none" />
          <text :x="x(s)" :y="HIGH - 3" text-anchor="middle" class="fill-faded text-[10px]">
            {{ fromS > 0 ? clock(fromS + s) : `${s} s` }}
          </text>
        </g>
      </svg>
    </template>
  </div>
</template>
