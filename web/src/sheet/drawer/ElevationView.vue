<script setup lang="ts">
import { movePlaces } from '@tidytrail/core/level'
import { OFF_FLOOR_M, type ElevationSample } from '@tidytrail/core/network'
import { useElementSize } from '@vueuse/core'
import { computed, onBeforeUnmount, ref } from 'vue'
import { useRouteFacts } from '../../kinds/route/facts'
import { pauseWords } from '../../kinds/route/stop-words'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import { metres } from '../../ui/figures'

/** The chosen route from the side: ground, floor and line, slopes, stops and pauses. */
const props = defineProps<{ routeId: string }>()
const levels = useLevelStore()
const sheet = useSheetStore()
const facts = useRouteFacts(() => props.routeId)
const box = ref<HTMLElement>()
const { width, height } = useElementSize(box)
const route = computed(() => levels.doc.routes[props.routeId])
const profile = computed(() => levels.doc.profiles[facts.value?.profileId ?? ''])
const LEFT = 40
const RIGHT = 26
const TOP = 16
const BOTTOM = 18

const range = computed(() => {
  const samples = facts.value?.elevation.samples ?? []
  let low = Infinity
  let high = -Infinity
  for (const p of samples) {
    low = Math.min(low, p.groundM, p.floorM, p.lineM)
    high = Math.max(high, p.floorM, p.lineM)
  }
  if (!(high >= low)) return { low: 0, high: 1 }
  const room = Math.max(0.8, (high - low) * 0.12)
  return { low: low - room, high: high + room }
})
const lengthM = computed(() => Math.max(0.01, facts.value?.elevation.lengthM ?? 1))
const X = (s: number) => LEFT + (s / lengthM.value) * Math.max(10, width.value - LEFT - RIGHT)
const Y = (z: number) =>
  TOP + ((range.value.high - z) / (range.value.high - range.value.low)) * Math.max(10, height.value - TOP - BOTTOM)
const path = (of: (p: ElevationSample) => number) =>
  (facts.value?.elevation.samples ?? [])
    .map((p, i) => `${i === 0 ? 'M' : 'L'}${X(p.s).toFixed(1)} ${Y(of(p)).toFixed(1)}`)
    .join('')
const ground = computed(
  () => `${path((p) => p.groundM)}L${X(lengthM.value)} ${height.value - BOTTOM}L${LEFT} ${height.value - BOTTOM}Z`,
)
const line = computed(() => path((p) => p.lineM))

/** Pieces of the floor by how steep they are: gentle, steep, hardly or not to be walked, and passages. */
const CLASSES = ['gentle', 'steep', 'too steep', 'passage', 'blocked'] as const
const floorPieces = computed(() => {
  const samples = facts.value?.elevation.samples ?? []
  const most = Math.tan(Math.min(1.5, profile.value?.maxSlopeRad ?? 0.7))
  const pieces: { kind: (typeof CLASSES)[number]; d: string }[] = []
  let back = 0
  for (let i = 1; i < samples.length; i++) {
    while (samples[i].s - samples[back + 1].s >= 1 && back + 1 < i) back++
    const [a, b] = [samples[i - 1], samples[i]]
    const run = b.s - samples[back].s
    const slope = run > 0.2 && samples[back].leg === b.leg ? Math.abs(b.floorM - samples[back].floorM) / run : 0
    const kind = !b.walked
      ? 'blocked'
      : b.passage
        ? 'passage'
        : slope > 0.9 * most
          ? 'too steep'
          : slope > 0.45 * most
            ? 'steep'
            : 'gentle'
    const to = `L${X(b.s).toFixed(1)} ${Y(b.floorM).toFixed(1)}`
    const last = pieces.at(-1)
    if (last?.kind === kind) last.d += to
    else pieces.push({ kind, d: `M${X(a.s).toFixed(1)} ${Y(a.floorM).toFixed(1)}${to}` })
  }
  return pieces
})
const INKS: Record<(typeof CLASSES)[number], string> = {
  gentle: 'var(--pine)',
  steep: 'var(--ochre)',
  'too steep': 'var(--alarm)',
  passage: 'var(--plum)',
  blocked: 'var(--alarm)',
}
const DASH: Partial<Record<(typeof CLASSES)[number], string>> = { blocked: '1 5', passage: '6 3', 'too steep': '3 2' }
/** The kinds of slope there are on this route, for the key. */
const present = computed(() => CLASSES.filter((k) => floorPieces.value.some((p) => p.kind === k)))
/** Spans where the line from stop to stop hangs above the floor or is sunk in it: only where lines are drawn exactly. */
const offFloor = computed(() => {
  const spans: { above: boolean; d: string }[] = []
  if (route.value.legs !== 'drawn') return spans
  for (const p of facts.value?.elevation.samples ?? []) {
    const off = p.lineM - p.floorM
    if (p.passage || Math.abs(off) < OFF_FLOOR_M) continue
    const x = X(p.s).toFixed(1)
    spans.push({ above: off > 0, d: `M${x} ${Y(p.floorM).toFixed(1)}V${Y(p.lineM).toFixed(1)}` })
  }
  return spans
})
const stops = computed(() => {
  const f = facts.value?.elevation
  if (!f) return []
  return f.stopsS.flatMap((s, i) => {
    const id = route.value.order[i % route.value.order.length]
    if (!id) return []
    const stop = route.value.stops[id]
    const { at } = levels.doc.waypoints[stop.waypointId]
    return [
      {
        id,
        s,
        n: (i % route.value.order.length) + 1,
        z: at[2],
        pause: stop.pause.maxS > 0 ? pauseWords(stop) : '',
        again: i >= route.value.order.length,
      },
    ]
  })
})
const labelled = computed(() => {
  let last = -Infinity
  return new Set(
    stops.value.flatMap((p) => {
      if (X(p.s) - last < 18) return []
      last = X(p.s)
      return [p.id + String(p.again)]
    }),
  )
})
const steps = computed(() => {
  const span = range.value.high - range.value.low
  const step = [0.5, 1, 2, 5, 10, 20, 50, 100].find((k) => span / k <= 4) ?? 200
  const out: number[] = []
  for (let z = Math.ceil(range.value.low / step) * step; z <= range.value.high; z += step) out.push(+z.toFixed(3))
  return out
})

const pointed = ref<ElevationSample>()
let held: { waypointId: string; gesture: string } | undefined
function onMove(event: PointerEvent) {
  const frame = box.value!.getBoundingClientRect()
  const [px, py] = [event.clientX - frame.left, event.clientY - frame.top]
  if (held) {
    const z =
      range.value.high - ((py - TOP) / Math.max(10, height.value - TOP - BOTTOM)) * (range.value.high - range.value.low)
    const { at } = levels.doc.waypoints[held.waypointId]
    levels.perform(
      movePlaces,
      { places: { [held.waypointId]: [at[0], at[1], Math.round(z * 100) / 100] }, word: 'Lift' },
      held.gesture,
    )
    return
  }
  const s = ((px - LEFT) / Math.max(10, width.value - LEFT - RIGHT)) * lengthM.value
  const samples = facts.value?.elevation.samples ?? []
  pointed.value = samples.reduce<ElevationSample | undefined>(
    (best, p) => (!best || Math.abs(p.s - s) < Math.abs(best.s - s) ? p : best),
    undefined,
  )
  sheet.crosshair = pointed.value?.at
}
function leave() {
  pointed.value = undefined
  sheet.crosshair = undefined
}
function take(event: PointerEvent, stopId: string) {
  if (route.value.locked) return
  held = { waypointId: route.value.stops[stopId].waypointId, gesture: `height-${event.timeStamp}` }
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
}
function release() {
  if (held) levels.release()
  held = undefined
}
onBeforeUnmount(leave)
</script>

<template>
  <div class="min-h-0 flex-1 border-t border-rule">
    <div
      ref="box"
      class="relative h-full w-full"
      data-testid="elevation"
      @pointermove="onMove"
      @pointerleave="leave"
      @pointerup="release"
    >
      <svg
        v-if="facts && width > 50"
        :width="width"
        :height="height"
        class="block"
        role="img"
        :aria-label="`${route.name} from the side`"
      >
        <g v-for="z in steps" :key="z">
          <line :x1="LEFT" :x2="width - RIGHT" :y1="Y(z)" :y2="Y(z)" stroke="var(--rule)" />
          <text :x="LEFT - 5" :y="Y(z) + 4" text-anchor="end" font-size="11" fill="var(--faded)">{{ z }} m</text>
        </g>
        <path :d="ground" fill="var(--contour)" fill-opacity="0.22" />
        <path v-if="route.legs === 'drawn'" :d="line" fill="none" stroke="var(--faded)" stroke-dasharray="4 3" />
        <path
          v-for="(p, i) in offFloor"
          :key="`o${i}`"
          :d="p.d"
          :stroke="p.above ? 'var(--lake)' : 'var(--alarm)'"
          stroke-width="1.5"
          stroke-opacity="0.55"
        />
        <path
          v-for="(p, i) in floorPieces"
          :key="i"
          :d="p.d"
          fill="none"
          :stroke="INKS[p.kind]"
          stroke-width="2.4"
          :stroke-dasharray="DASH[p.kind]"
          stroke-linejoin="round"
        />
        <g v-for="p in stops" :key="`${p.id}${p.again}`">
          <line
            :x1="X(p.s)"
            :x2="X(p.s)"
            :y1="Y(p.z)"
            :y2="height - BOTTOM"
            stroke="var(--faded)"
            stroke-width="0.8"
            stroke-dasharray="2 3"
          />
          <circle
            :cx="X(p.s)"
            :cy="Y(p.z)"
            r="5.5"
            :fill="sheet.selected.includes(p.id) ? 'var(--rust)' : 'var(--sheet)'"
            stroke="var(--rust)"
            stroke-width="2"
            class="cursor-ns-resize"
            :data-stop="p.n"
            @pointerdown="take($event, p.id)"
            @click="sheet.choose([p.id])"
          >
            <title>Stop {{ p.n }}, {{ p.z }} m high; drag it up or down</title>
          </circle>
          <text
            v-if="labelled.has(p.id + String(p.again))"
            :x="X(p.s)"
            :y="height - 5"
            text-anchor="middle"
            font-size="11"
            fill="var(--ink)"
          >
            {{ p.n }}
            <tspan v-if="p.pause" fill="var(--faded)">· {{ p.pause }}</tspan>
          </text>
        </g>
        <g font-size="11" fill="var(--faded)">
          <g v-for="(k, i) in present" :key="k" :transform="`translate(${LEFT + 8 + i * 84} 10)`">
            <line x2="18" y1="-3" y2="-3" :stroke="INKS[k]" stroke-width="2.4" :stroke-dasharray="DASH[k]" />
            <text x="23">{{ k }}</text>
          </g>
        </g>
        <g v-if="pointed" pointer-events="none">
          <line :x1="X(pointed.s)" :x2="X(pointed.s)" :y1="TOP - 8" :y2="height - BOTTOM" stroke="var(--ink)" />
          <text
            :x="Math.min(width - 150, X(pointed.s) + 6)"
            :y="TOP"
            font-size="11.5"
            fill="var(--ink)"
            font-weight="700"
          >
            {{ metres(pointed.s) }} on, floor at {{ pointed.floorM.toFixed(2) }} m
          </text>
        </g>
      </svg>
      <p v-else class="px-3 py-2 text-[13px] text-faded">
        {{ route.order.length < 2 ? 'A route needs two stops to be seen from the side.' : 'Working it out …' }}
      </p>
    </div>
  </div>
</template>
