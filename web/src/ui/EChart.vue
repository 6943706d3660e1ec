<script setup lang="ts">
import { BarChart, BoxplotChart, CustomChart, LineChart, ScatterChart } from 'echarts/charts'
import {
  DataZoomInsideComponent,
  GridComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
} from 'echarts/components'
import { init, use, type EChartsType } from 'echarts/core'
import { LabelLayout } from 'echarts/features'
import { CanvasRenderer } from 'echarts/renderers'
import { useElementSize } from '@vueuse/core'
import { onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'

use([
  LabelLayout,
  BarChart,
  BoxplotChart,
  CustomChart,
  LineChart,
  ScatterChart,
  GridComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
  DataZoomInsideComponent,
  CanvasRenderer,
])

/** A chart, as its option says; drawn anew when that is another. */
const props = defineProps<{ option: Readonly<Record<string, unknown>>; label: string }>()
const emit = defineEmits<{ ready: [chart: EChartsType] }>()
const root = ref<HTMLElement>()
const chart = shallowRef<EChartsType>()
const { width, height } = useElementSize(root)

function draw(): void {
  chart.value?.setOption(props.option, { notMerge: true, lazyUpdate: true })
}
onMounted(() => {
  chart.value = init(root.value!, null, { renderer: 'canvas', width: 300, height: 100 })
  draw()
  emit('ready', chart.value)
})
watch(() => props.option, draw)
watch([width, height], ([w, h]) => w > 0 && h > 0 && chart.value?.resize({ width: w, height: h }))
onBeforeUnmount(() => chart.value?.dispose())
</script>

<template><div ref="root" class="min-h-0 w-full flex-1" role="img" :aria-label="label" /></template>
