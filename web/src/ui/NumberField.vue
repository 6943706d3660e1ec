<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { sumOf } from './sum'

const props = defineProps<{
  label: string
  value: number | null
  unit?: string
  /** What one pixel of dragging the label adds. */
  step?: number
  min?: number
  max?: number
  digits?: number
  /** Shown when the chosen things differ. */
  mixed?: boolean
  /** Nothing is set: what is shown instead of the number. */
  none?: string
  /** Can what is set be taken back to nothing? */
  clearable?: boolean
}>()
const emit = defineEmits<{ change: [value: number, gesture: string | undefined]; done: []; clear: [] }>()

const shown = computed(() =>
  props.mixed || props.none !== undefined || props.value === null
    ? ''
    : String(+props.value.toFixed(props.digits ?? 2)),
)
const text = ref(shown.value)
const wrong = ref(false)
watch(shown, (v) => (text.value = v))

const clamp = (v: number) => Math.min(props.max ?? Infinity, Math.max(props.min ?? -Infinity, v))

function commit() {
  if (text.value === shown.value) return (wrong.value = false)
  const value = sumOf(text.value)
  wrong.value = value === undefined
  if (value !== undefined) {
    emit('change', clamp(value), undefined)
    emit('done')
    // What was not taken does not stay in the field as if it were.
    void nextTick(() => (text.value = shown.value))
  }
}

function nudge(by: number) {
  if (props.value !== null) {
    emit('change', clamp(+(props.value + by).toFixed(props.digits ?? 2)), undefined)
    emit('done')
  }
}

let drag: { x: number; from: number; gesture: string } | undefined
function dragStart(event: PointerEvent) {
  if (props.value === null) return
  drag = { x: event.clientX, from: props.value, gesture: `number-${event.timeStamp}` }
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
}
function dragMove(event: PointerEvent) {
  if (!drag || Math.abs(event.clientX - drag.x) < 2) return
  const by = (event.clientX - drag.x) * (props.step ?? 0.1)
  emit('change', clamp(+(drag.from + by).toFixed(props.digits ?? 2)), drag.gesture)
}
function dragEnd() {
  if (drag) emit('done')
  drag = undefined
}
</script>

<template>
  <label class="block">
    <span
      class="label cursor-ew-resize touch-none select-none"
      title="Drag to change"
      @pointerdown="dragStart"
      @pointermove="dragMove"
      @pointerup="dragEnd"
      @pointercancel="dragEnd"
      >{{ label }}</span
    >
    <span class="row gap-1!">
      <input
        v-model="text"
        class="field"
        :class="wrong ? 'border-alarm!' : ''"
        inputmode="decimal"
        :aria-label="unit ? `${label}, ${unit}` : label"
        :aria-invalid="wrong"
        :placeholder="mixed ? 'differs' : (none ?? '')"
        @change="commit"
        @keydown.enter="commit"
        @keydown.up.prevent="nudge((step ?? 0.1) * 10)"
        @keydown.down.prevent="nudge((step ?? 0.1) * -10)"
        @focus="($event.target as HTMLInputElement).select()"
      />
      <span v-if="unit" class="label w-8 shrink-0">{{ unit }}</span>
      <button
        v-if="clearable"
        type="button"
        class="btn-quiet px-1!"
        :aria-label="`Clear ${label}`"
        :title="`Clear ${label}`"
        @click.prevent="emit('clear')"
      >
        ×
      </button>
    </span>
    <span v-if="wrong" class="text-[12px] text-alarm">not a number or a sum</span>
  </label>
</template>
