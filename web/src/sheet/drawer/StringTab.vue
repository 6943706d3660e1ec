<script setup lang="ts">
import { sharedStretches, type StringLine } from '@tidytrail/core/insight'
import type { EChartsType } from 'echarts/core'
import { computed, ref, watch } from 'vue'
import { useInsightStore } from '../../stores/insight'
import { useLevelStore } from '../../stores/level'
import { useRehearsalStore } from '../../stores/rehearsal'
import { useSheetStore } from '../../stores/sheet'
import { axisLook, CHART_FONT, tickS, tipLook, useChartInks } from '../../ui/chart-inks'
import EChart from '../../ui/EChart.vue'
import { clock, seconds } from '../../ui/figures'
import { placeOnRoute } from './place-on-route'

/** The string-line: time to the right, distance up, a line for everybody on a route; two routes above each other. */
const insight = useInsightStore()
const levels = useLevelStore()
const rehearsal = useRehearsalStore()
const sheet = useSheetStore()
const inks = useChartInks()

/** Routes somebody was on. */
const used = computed(() => {
  const numbers = new Set(rehearsal.events.map((e) => e.route))
  return [...numbers].flatMap((n) => {
    const id = rehearsal.recording.routes[n]
    return id && levels.doc.routes[id] && levels.doc.routes[id].kind !== 'network' ? [id] : []
  })
})
const picked = ref<string>()
const other = ref('')
/** Routes that are chosen, on the map or in a list: of two that are, both are shown. */
const chosenRoutes = computed(() => sheet.selected.filter((id) => used.value.includes(id)))
/** The chosen route, or that of who is chosen; else the one picked last, or the first. */
const routeId = computed(() => {
  const { chosen } = sheet
  if (chosenRoutes.value.length > 0) return chosenRoutes.value[0]
  if (chosen && levels.doc.routes[chosen]) return chosen
  const agent = rehearsal.agents[rehearsal.placeOf(chosen ?? '')]
  const on = agent && (rehearsal.moment(rehearsal.placeOf(agent.id))?.routeId ?? agent.routeId)
  return on ?? (picked.value && used.value.includes(picked.value) ? picked.value : used.value[0])
})
const secondId = computed(() => chosenRoutes.value[1] ?? other.value)
watch(
  [routeId, secondId],
  () => {
    const ids = [routeId.value, secondId.value].filter((id): id is string => !!id && id !== '')
    insight.routeIds = [...new Set(ids)]
  },
  { immediate: true },
)
const lines = computed(() => insight.routeIds.flatMap((id) => insight.strings.find((s) => s.routeId === id) ?? []))
const chosenKey = computed(() => rehearsal.agents[rehearsal.placeOf(sheet.chosen ?? '')]?.key)
const shared = computed(() => {
  const [a, b] = lines.value
  return a && b ? sharedStretches(levels.doc, a.routeId, b.routeId) : []
})
const endS = computed(() => Math.max(1, rehearsal.recordedS))
const nameOf = (key: number) => rehearsal.nameOf(key) ?? ''
const TURNS = ['rust', 'lake', 'plum', 'ochre', 'pine'] as const

const MARK_WORDS = { meeting: 'meets', overtaking: 'overtakes', saw: 'saw', lost: 'lost sight of' } as const
const MARK_SYMBOL = { meeting: 'circle', overtaking: 'triangle', saw: 'diamond', lost: 'emptyDiamond' } as const

/** As many as this are named beside their threads, in so much room. */
const MOST_NAMED = 6
const NAMES_PX = 92
const named = (line: StringLine) => new Set(line.threads.map((s) => s.key)).size <= MOST_NAMED

function seriesOf(line: StringLine, axis: number) {
  const keys = [...new Set(line.threads.map((s) => s.key))]
  const place = { xAxisIndex: axis, yAxisIndex: axis }
  const bold = (key: number) => chosenKey.value === key
  return [
    ...line.threads.map((s) => ({
      type: 'line' as const,
      ...place,
      name: nameOf(s.key),
      showSymbol: false,
      silent: false,
      triggerEvent: true,
      lineStyle: { color: inks.value[TURNS[keys.indexOf(s.key) % TURNS.length]], width: bold(s.key) ? 3 : 1.5 },
      emphasis: { disabled: true },
      data: s.t.map((t, k) => [t, s.m[k]]),
      // Of a few it is told beside their threads who they are.
      endLabel: {
        show: named(line) && line.threads.findLast((p) => p.key === s.key) === s,
        formatter: '{a}',
        color: inks.value.ink,
        fontFamily: CHART_FONT,
        fontSize: 11,
        distance: 4,
        width: NAMES_PX - 10,
        overflow: 'truncate' as const,
      },
      labelLayout: { moveOverlap: 'shiftY' as const },
    })),
    {
      type: 'scatter' as const,
      ...place,
      name: 'marks',
      symbolSize: 7,
      data: line.marks.map((m) => ({
        value: [m.t, m.m],
        symbol: MARK_SYMBOL[m.kind],
        itemStyle: {
          color: m.kind === 'lost' ? inks.value.sheet : m.kind === 'saw' ? inks.value.lake : inks.value.ink,
          borderColor: m.kind === 'lost' ? inks.value.lake : inks.value.ink,
          borderWidth: 1,
        },
        tip: `${clock(m.t)}: ${nameOf(m.keys[0])} ${MARK_WORDS[m.kind]} ${nameOf(m.keys[1])}`,
      })),
      tooltip: { formatter: (p: { data: { tip: string } }) => p.data.tip },
      markLine: {
        silent: true,
        symbol: 'none',
        animation: false,
        label: { show: false },
        lineStyle: { color: inks.value.rust, type: 'solid' as const, width: 1.5 },
        data: [{ xAxis: Math.round(rehearsal.t * 10) / 10 }],
      },
      markArea: {
        silent: true,
        itemStyle: { color: inks.value.tint, opacity: 0.8 },
        data: [
          ...shared.value.map((s) => {
            const [from, to] = axis === 0 ? s.a : s.b
            return [{ yAxis: Math.min(from, to) }, { yAxis: Math.max(from, to) }]
          }),
          ...(rehearsal.loop ? [[{ xAxis: rehearsal.loop.from }, { xAxis: rehearsal.loop.to }]] : []),
        ],
      },
    },
  ]
}

/** Stops as far apart as their names need. */
function spaced(line: StringLine): StringLine['stops'] {
  const apart = (line.lengthM * (lines.value.length > 1 ? 2 : 1)) / 11
  let last = -Infinity
  return line.stops.filter((s) => {
    if (s.m - last < apart && s.m !== line.lengthM) return false
    last = s.m
    return true
  })
}

const option = computed(() => {
  const look = axisLook(inks.value)
  const two = lines.value.length > 1
  return {
    animation: false,
    tooltip: { ...tipLook(inks.value), trigger: 'item' },
    grid: lines.value.map((_, k) => ({
      left: 128,
      right: lines.value.some(named) ? NAMES_PX : 14,
      top: two ? (k === 0 ? 6 : '54%') : 6,
      bottom: two && k === 0 ? '56%' : 20,
    })),
    xAxis: lines.value.map((_, k) => ({
      type: 'value' as const,
      gridIndex: k,
      min: 0,
      max: endS.value,
      interval: tickS(endS.value),
      ...look,
      axisLabel: { ...look.axisLabel, show: !two || k === 1, formatter: (s: number) => clock(s) },
    })),
    yAxis: lines.value.map((line, k) => ({
      type: 'value' as const,
      gridIndex: k,
      min: 0,
      max: line.lengthM,
      ...look,
      axisLabel: {
        ...look.axisLabel,
        width: 118,
        overflow: 'truncate' as const,
        hideOverlap: true,
        customValues: spaced(line).map((s) => s.m),
        formatter: (m: number) => {
          const stop = line.stops.find((s) => Math.abs(s.m - m) < 1e-6)
          return stop ? `${stop.index + 1} ${stop.name}` : ''
        },
      },
      axisTick: { ...look.axisTick, customValues: line.stops.map((s) => s.m) },
      splitLine: { show: false },
    })),
    series: lines.value.flatMap((line, k) => [
      ...seriesOf(line, k),
      {
        // The stops as rules across the sheet.
        type: 'line' as const,
        xAxisIndex: k,
        yAxisIndex: k,
        silent: true,
        data: [],
        markLine: {
          silent: true,
          symbol: 'none',
          animation: false,
          label: { show: false },
          lineStyle: { color: inks.value.rule, type: 'solid' as const, width: 1 },
          data: line.stops.map((s) => ({ yAxis: s.m })),
        },
      },
    ]),
  }
})

function ready(chart: EChartsType): void {
  const zr = chart.getZr()
  let from: number | undefined
  let dragged = false
  const at = (event: { offsetX: number; offsetY: number }) => {
    for (let k = 0; k < lines.value.length; k++) {
      const [t, m] = chart.convertFromPixel({ xAxisIndex: k, yAxisIndex: k }, [
        event.offsetX,
        event.offsetY,
      ]) as number[]
      if (m >= 0 && m <= lines.value[k].lengthM && t >= 0 && t <= endS.value) return { t, m, line: lines.value[k] }
    }
    return undefined
  }
  zr.on('mousedown', (event) => {
    from = at(event)?.t
    dragged = false
  })
  zr.on('mousemove', (event) => {
    const over = at(event)
    insight.pointed = over && placeOnRoute(levels.doc, over.line.routeId, over.m)
    if (from === undefined || !over || Math.abs(over.t - from) < 1) return
    dragged = true
    // A span that is drawn over is played over and over.
    rehearsal.loop = { from: Math.min(from, over.t), to: Math.max(from, over.t) }
  })
  zr.on('mouseup', (event) => {
    const over = at(event)
    if (dragged && rehearsal.loop) rehearsal.seek(rehearsal.loop.from)
    else if (over && from !== undefined) {
      rehearsal.loop = undefined
      rehearsal.playing = false
      rehearsal.seek(over.t)
    }
    from = undefined
  })
  zr.on('globalout', () => {
    insight.pointed = undefined
    from = undefined
  })
  chart.on('click', (event) => {
    const agent = rehearsal.agents.find((a) => a.name === event.seriesName)
    if (agent) sheet.choose([agent.id])
  })
}

const routes = computed(() => used.value.map((id) => ({ id, name: levels.doc.routes[id].name })))
const gaps = computed(() => {
  const line = lines.value[0]
  if (!line) return ''
  const worst = [...line.gaps].sort((a, b) => b.longestS - a.longestS)[0]
  const name = line.stops[worst.index].name || `stop ${worst.index + 1}`
  return `${name} lies unvisited longest: ${seconds(worst.longestS)} from ${clock(worst.fromS)} on`
})
</script>

<template>
  <div class="flex min-h-0 flex-1 flex-col px-2 pb-1">
    <p v-if="!rehearsal.begun || used.length === 0" class="m-auto text-faded">
      {{ rehearsal.begun ? 'Nobody is on a route yet.' : 'Rehearse, to see time against distance along a route.' }}
    </p>
    <template v-else>
      <div class="flex items-center gap-2 px-1 text-[12.5px]">
        <select
          class="field w-36!"
          aria-label="Route of the string-line"
          :value="routeId"
          @change="
            (e) => {
              picked = (e.target as HTMLSelectElement).value
              sheet.choose([picked])
            }
          "
        >
          <option v-for="r in routes" :key="r.id" :value="r.id">{{ r.name }}</option>
        </select>
        <select
          class="field w-36!"
          aria-label="A second route above it"
          :value="secondId === routeId ? '' : secondId"
          @change="
            (e) => {
              other = (e.target as HTMLSelectElement).value
              if (chosenRoutes.length > 1) sheet.choose([chosenRoutes[0]])
            }
          "
        >
          <option value="">no second route</option>
          <option v-for="r in routes.filter((x) => x.id !== routeId)" :key="r.id" :value="r.id">{{ r.name }}</option>
        </select>
        <span class="truncate text-faded" :title="gaps">{{ gaps }}</span>
        <button v-if="rehearsal.loop" class="btn-quiet ml-auto" @click="rehearsal.loop = undefined">Loop off</button>
        <span v-else class="ml-auto whitespace-nowrap text-faded">drag a span to loop it</span>
      </div>
      <EChart
        v-if="lines.length > 0"
        :key="insight.routeIds.join()"
        :option="option"
        :label="`Time against distance along ${levels.doc.routes[lines[0].routeId]?.name}: ${gaps}`"
        @ready="ready"
      />
      <p v-else class="m-auto text-faded">Looking …</p>
    </template>
  </div>
</template>
