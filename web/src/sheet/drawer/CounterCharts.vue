<script setup lang="ts">
import { HEADWAY_STEP_S, type CounterFigures } from '@tidytrail/core/insight'
import { computed } from 'vue'
import { axisLook, CHART_FONT, tipLook, useChartInks } from '../../ui/chart-inks'
import EChart from '../../ui/EChart.vue'
import { clock } from '../../ui/figures'

/** A counter over time, its headways, and flow by density beside the model's own curve. */
const props = defineProps<{ figures: CounterFigures; name: string }>()
const inks = useChartInks()
const nameLook = computed(() => ({ color: inks.value.faded, fontFamily: CHART_FONT, fontSize: 11 }))
const axis = (name: string, more: object = {}) => ({
  type: 'value',
  name,
  nameTextStyle: nameLook.value,
  nameGap: 6,
  ...axisLook(inks.value),
  ...more,
})
const base = computed(() => ({ animation: false, tooltip: { ...tipLook(inks.value), trigger: 'axis' } }))

const overTime = computed(() => {
  const { spans } = props.figures
  return {
    ...base.value,
    grid: { left: 40, right: 34, top: 22, bottom: 20 },
    xAxis: { type: 'category', data: spans.map((s) => clock(s.fromS)), ...axisLook(inks.value) },
    yAxis: [
      axis('an hour', { nameTextStyle: { ...nameLook.value, align: 'right' } }),
      axis('m/s', { splitLine: { show: false }, min: 0 }),
    ],
    series: [
      { name: 'flow', type: 'bar', data: spans.map((s) => Math.round(s.perH)), itemStyle: { color: inks.value.lake } },
      {
        name: 'speed',
        type: 'line',
        yAxisIndex: 1,
        connectNulls: true,
        data: spans.map((s) => (s.count > 0 ? +s.mps.toFixed(1) : null)),
        symbolSize: 5,
        lineStyle: { color: inks.value.rust, width: 1.6 },
        itemStyle: { color: inks.value.rust },
      },
    ],
  }
})
const headways = computed(() => {
  const { headways: bins } = props.figures
  const last = Math.max(10, bins.findLastIndex((n) => n > 0) + 1)
  return {
    ...base.value,
    grid: { left: 30, right: 8, top: 22, bottom: 20 },
    xAxis: {
      type: 'category',
      data: bins.slice(0, last).map((_, k) => `${k * HEADWAY_STEP_S}`),
      ...axisLook(inks.value),
    },
    yAxis: axis('headways, s', { minInterval: 1, nameTextStyle: { ...nameLook.value, align: 'left' } }),
    series: [{ type: 'bar', barCategoryGap: '10%', data: bins.slice(0, last), itemStyle: { color: inks.value.pine } }],
  }
})
/** Each stretch of time a spot; the line is what the model says of all at their steady gap. */
const diagram = computed(() => {
  const { spans, curve } = props.figures
  return {
    ...base.value,
    tooltip: {
      ...tipLook(inks.value),
      trigger: 'item',
      formatter: ({ value }: { value: number[] }) =>
        `${value[0].toFixed(1)} a kilometre, ${Math.round(value[1])} an hour`,
    },
    grid: { left: 40, right: 12, top: 22, bottom: 20 },
    xAxis: axis('', { min: 0, splitNumber: 3 }),
    yAxis: axis('an hour by a kilometre', { min: 0, nameTextStyle: { ...nameLook.value, align: 'left' } }),
    series: [
      {
        name: 'model',
        type: 'line',
        showSymbol: false,
        data: curve.map((p) => [p.perKm, p.perH]),
        lineStyle: { color: inks.value.faded, width: 1.4, type: 'dashed' },
        itemStyle: { color: inks.value.faded },
      },
      {
        name: 'counted',
        type: 'scatter',
        symbolSize: 6,
        data: spans.filter((s) => s.count > 0).map((s) => [s.perKm, s.perH]),
        itemStyle: { color: inks.value.rust },
      },
    ],
  }
})
</script>

<template>
  <div class="flex min-w-0 flex-1 gap-2">
    <div class="flex min-w-0 flex-[4]">
      <EChart :option="overTime" :label="`Flow and speed at ${name} over time`" />
    </div>
    <div class="flex min-w-0 flex-[3]"><EChart :option="headways" :label="`Headways at ${name}`" /></div>
    <div class="flex min-w-0 flex-[4]">
      <EChart :option="diagram" :label="`Flow by density at ${name}, beside the model`" />
    </div>
  </div>
</template>
