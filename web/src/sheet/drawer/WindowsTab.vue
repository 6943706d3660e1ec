<script setup lang="ts">
import type { CustomSeriesRenderItem } from 'echarts'
import type { Span } from '@tidytrail/core/insight'
import type { EChartsType } from 'echarts/core'
import { computed } from 'vue'
import { useInsightStore } from '../../stores/insight'
import { useLevelStore } from '../../stores/level'
import { useRehearsalStore } from '../../stores/rehearsal'
import { useSheetStore } from '../../stores/sheet'
import { axisLook, CHART_FONT, tickS, tipLook, useChartInks } from '../../ui/chart-inks'
import EChart from '../../ui/EChart.vue'
import { clock, seconds } from '../../ui/figures'

/**
 * Bands under the time axis: watched is hatched, open is bare paper with its length written in. Of the sneak line that is
 * chosen the whole way is shown, place by place, with the safe way as a thread through it.
 */
const insight = useInsightStore()
const levels = useLevelStore()
const rehearsal = useRehearsalStore()
const sheet = useSheetStore()
const inks = useChartInks()

interface Row {
  readonly id: string
  readonly name: string
  readonly open: readonly Span[]
}
const rows = computed<Row[]>(() => {
  const { watchSpots, sneakLines } = levels.doc
  return [
    ...Object.keys(sneakLines).map((id) => ({ id, name: sneakLines[id].name, open: insight.lineOf(id)?.starts })),
    ...Object.keys(watchSpots).map((id) => ({ id, name: watchSpots[id].name, open: insight.spotOf(id)?.open })),
  ].flatMap((r) => (r.open ? [{ ...r, open: r.open }] : []))
})
const chosen = computed(() => (sheet.chosen && levels.doc.sneakLines[sheet.chosen] ? sheet.chosen : undefined))
const way = computed(() => (chosen.value ? insight.lineOf(chosen.value) : undefined))
const endS = computed(() => Math.max(1, rehearsal.recordedS))

/** The stretches between others, up to the end. */
function shutOf(open: readonly Span[], to: number): Span[] {
  const shut: Span[] = []
  let from = 0
  for (const span of open) {
    if (span.from > from) shut.push({ from, to: span.from })
    from = span.to
  }
  if (from < to) shut.push({ from, to })
  return shut
}

const now = computed(() => ({
  silent: true,
  symbol: 'none',
  animation: false,
  label: { show: false },
  lineStyle: { color: inks.value.rust, type: 'solid' as const, width: 1.5 },
  data: [{ xAxis: Math.round(rehearsal.t * 10) / 10 }],
}))

const hatched = computed(() => ({
  symbol: 'line',
  color: inks.value.faded,
  dashArrayX: [1, 0],
  dashArrayY: [2, 4],
  rotation: Math.PI / 4,
}))

const band: CustomSeriesRenderItem = (_params, api) => {
  const row = api.value(0) as number
  const [x0, y] = api.coord([api.value(1), row])
  const [x1] = api.coord([api.value(2), row])
  const high = Math.min(20, (api.size!([0, 1]) as number[])[1] * 0.62)
  const open = api.value(3) === 1
  const wide = Math.max(1, x1 - x0)
  const length = (api.value(2) as number) - (api.value(1) as number)
  return {
    type: 'group',
    children: [
      {
        type: 'rect',
        shape: { x: x0, y: y - high / 2, width: wide, height: high },
        style: open
          ? { fill: inks.value.sheet, stroke: inks.value.pine, lineWidth: 1.5 }
          : ({ fill: inks.value.tint, stroke: inks.value.faded, lineWidth: 0.5, decal: hatched.value } as never),
      },
      ...(open && wide > 34
        ? [
            {
              type: 'text' as const,
              style: {
                text: seconds(length),
                x: x0 + wide / 2,
                y,
                fill: inks.value.ink,
                font: `11px ${CHART_FONT}`,
                align: 'center' as const,
                verticalAlign: 'middle' as const,
              },
            },
          ]
        : []),
    ],
  }
}

const axisX = computed(() => ({
  type: 'value' as const,
  min: 0,
  max: endS.value,
  interval: tickS(endS.value),
  ...axisLook(inks.value),
  axisLabel: { ...axisLook(inks.value).axisLabel, formatter: (s: number) => clock(s) },
}))

const bands = computed(() => ({
  animation: false,
  grid: { left: 150, right: 14, top: 6, bottom: 22 },
  tooltip: { ...tipLook(inks.value), trigger: 'item' },
  xAxis: axisX.value,
  yAxis: {
    type: 'category',
    inverse: true,
    data: rows.value.map((r) => r.name),
    ...axisLook(inks.value),
    axisLabel: { ...axisLook(inks.value).axisLabel, width: 138, overflow: 'truncate', color: inks.value.ink },
  },
  series: [
    {
      type: 'custom',
      renderItem: band,
      clip: true,
      tooltip: {
        formatter: (p: { value: number[] }) =>
          `${p.value[3] === 1 ? 'open' : 'watched'} ${clock(p.value[1])} to ${clock(p.value[2])}, ${seconds(p.value[2] - p.value[1])}`,
      },
      data: rows.value.flatMap(({ open }, k) => [
        ...shutOf(open, endS.value).map((s) => [k, s.from, s.to, 0]),
        ...open.map((s) => [k, s.from, Math.min(s.to, endS.value), 1]),
      ]),
      markLine: now.value,
    },
  ],
}))

const cell: CustomSeriesRenderItem = (_params, api) => {
  const [x0, y0] = api.coord([api.value(0), api.value(2)])
  const [x1, y1] = api.coord([api.value(1), api.value(3)])
  return {
    type: 'rect',
    shape: { x: x0, y: y1, width: Math.max(0.8, x1 - x0), height: Math.max(0.8, y0 - y1) },
    style: { fill: inks.value.faded, opacity: 0.55 },
  }
}
const placeTime = computed(() => {
  const answer = way.value!
  const thread = (plan: typeof answer.best) =>
    plan ? [[plan.startS, 0], ...plan.moves.map((m) => [m.toS, m.toM])] : []
  return {
    animation: false,
    grid: { left: 64, right: 14, top: 10, bottom: 22 },
    tooltip: {
      ...tipLook(inks.value),
      trigger: 'axis',
      formatter: ([p]: { value: number[] }[]) => (p ? `${clock(p.value[0])}, ${p.value[1].toFixed(1)} m along` : ''),
    },
    xAxis: axisX.value,
    yAxis: {
      type: 'value',
      min: 0,
      max: Math.ceil(answer.lengthM),
      ...axisLook(inks.value),
      axisLabel: { ...axisLook(inks.value).axisLabel, formatter: (m: number) => `${m} m` },
    },
    series: [
      {
        type: 'custom',
        renderItem: cell,
        clip: true,
        silent: true,
        data: answer.seen.flatMap((spans, k) =>
          spans.map((s) => [
            s.from,
            s.to,
            Math.max(0, (k - 0.5) * answer.everyM),
            Math.min(answer.lengthM, (k + 0.5) * answer.everyM),
          ]),
        ),
        markLine: now.value,
      },
      {
        type: 'line',
        name: 'best plan',
        showSymbol: false,
        lineStyle: { color: inks.value.pine, width: 2.5 },
        data: thread(answer.best),
      },
      {
        type: 'scatter',
        symbol: 'path://M0 0L10 10M10 0L0 10',
        symbolSize: 11,
        itemStyle: { color: 'none', borderColor: inks.value.ochre, borderWidth: 2.4 },
        data: answer.best ? [[answer.best.tightest.s, answer.best.tightest.m]] : [],
      },
    ],
  }
})

function ready(chart: EChartsType): void {
  chart.getZr().on('click', (event: { offsetX: number; offsetY: number }) => {
    const [t] = chart.convertFromPixel({ gridIndex: 0 }, [event.offsetX, event.offsetY]) as number[]
    if (!(t >= 0 && t <= endS.value)) return
    rehearsal.playing = false
    rehearsal.seek(t)
  })
}
const words = computed(() => rows.value.map((r) => `${r.name}: ${r.open.length} windows`).join('; '))
</script>

<template>
  <div class="flex min-h-0 flex-1 px-2 pb-1">
    <p v-if="rows.length === 0" class="m-auto text-faded">
      {{
        Object.keys(levels.doc.watchSpots).length + Object.keys(levels.doc.sneakLines).length === 0
          ? 'Place a watch spot (I), or draw the line a player would sneak along (U).'
          : rehearsal.begun
            ? 'Looking …'
            : 'Rehearse, to see the windows.'
      }}
    </p>
    <EChart
      v-else-if="way && chosen"
      :key="chosen"
      :option="placeTime"
      :label="`When each place of ${levels.doc.sneakLines[chosen].name} is watched, and the safe way through`"
      @ready="ready"
    />
    <EChart v-else :option="bands" :label="`Windows: ${words}`" @ready="ready" />
  </div>
</template>
