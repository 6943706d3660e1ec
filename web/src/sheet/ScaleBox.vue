<script setup lang="ts">
import { IconMinus, IconPlus, IconZoomScan } from '@tabler/icons-vue'
import IconButton from '../ui/IconButton.vue'
import { computed } from 'vue'
import { roundLength, type Viewport } from '../map/viewport'
import { useSheetStore } from '../stores/sheet'
import { useSurveyStore } from '../stores/survey'

const props = defineProps<{
  view: Viewport
  /** Only the scale and the buttons. */
  small?: boolean
}>()
const emit = defineEmits<{ zoom: [factor: number]; fit: [] }>()
const sheet = useSheetStore()
const survey = useSurveyStore()

const fields = computed(() => (props.small ? 2 : 4))
const length = computed(() => roundLength((props.small ? 28 : 58) / props.view.scale))
const px = computed(() => length.value * props.view.scale)
/** Room a figure needs, pixels. */
const FIGURE_PX = 32
/** Where there is no room for a figure at each field, those in the middle and at the ends are left. */
const figures = computed(() => {
  const every = px.value / fields.value < FIGURE_PX ? 2 : 1
  return Array.from({ length: fields.value + 1 }, (_, i) => ({
    at: i,
    text: i % every === 0 ? String(+((length.value * i) / fields.value).toPrecision(3)) : '',
  }))
})
</script>

<template>
  <div class="panel border-rule! px-2.5 pt-1.5 pb-1" data-testid="scale">
    <p v-if="!small" class="truncate text-[12.5px] text-faded" aria-label="Place under the pointer">
      <template v-if="sheet.pointer"
        >x {{ sheet.pointer.x.toFixed(1) }} y {{ sheet.pointer.y.toFixed(1) }} · floor
        {{ sheet.pointer.z.toFixed(2) }} m</template
      >
      <span v-else-if="survey.progress" class="text-lake" role="status">
        working out the reach, {{ Math.round((100 * survey.progress.done) / survey.progress.total) }} %
      </span>
      <template v-else>Point at the map for a place</template>
    </p>
    <div class="flex items-end justify-between gap-3">
      <div class="pb-0.5">
        <div class="flex border border-ink" :style="{ width: `${px}px` }">
          <span v-for="i in fields" :key="i" class="h-[7px] flex-1" :class="i % 2 ? 'bg-ink' : 'bg-sheet'" />
        </div>
        <div class="relative h-4 text-[11px]" :style="{ width: `${px}px` }">
          <span
            v-for="{ at, text } in figures"
            :key="at"
            class="absolute whitespace-nowrap"
            :class="at === fields ? '' : '-translate-x-1/2'"
            :style="{ left: at === fields ? `${px - 6}px` : `${(px * at) / fields + (at === 0 ? 3 : 0)}px` }"
            >{{ text }}{{ at === fields ? ' m' : '' }}</span
          >
        </div>
      </div>
      <div class="flex">
        <IconButton label="Zoom out" tip="Zoom out (−)" :icon="IconMinus" :size="16" @click="emit('zoom', 0.7)" />
        <IconButton label="Zoom in" tip="Zoom in (+)" :icon="IconPlus" :size="16" @click="emit('zoom', 1.4)" />
        <IconButton
          label="Fit the level"
          tip="Fit the level (F)"
          :icon="IconZoomScan"
          :size="16"
          @click="emit('fit')"
        />
      </div>
    </div>
  </div>
</template>
