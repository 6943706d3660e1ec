<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import BearingDial from './BearingDial.vue'
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
  /** It is a bearing: a dial to turn stands beside it. */
  dial?: boolean
}>()
const emit = defineEmits<{ change: [value: number, gesture: string | undefined]; done: []; clear: [] }>()

const shown = computed(() =>
  props.mixed || props.none !== undefined || props.value === null
    ? ''
    : String(+props.value.toFixed(props.digits ?? 2)),
)
const text = ref(shown.value)
/** What is wrong with what was typed, or was done about it. */
const note = ref('')
const wrong = ref(false)
watch(shown, (v) => {
  text.value = v
  wrong.value = false
})

const clamp = (v: number) => Math.min(props.max ?? Infinity, Math.max(props.min ?? -Infinity, v))

/** Takes what was typed, once: leaving the field after Enter does not take it again. */
let taken: string | undefined
function commit() {
  if (text.value === taken) return
  taken = text.value
  note.value = ''
  wrong.value = false
  if (text.value === shown.value) return
  const value = sumOf(text.value)
  if (value === undefined) {
    wrong.value = true
    note.value = 'not a number or a sum'
    return
  }
  const within = clamp(value)
  if (within < value) note.value = `${+within.toFixed(3)} is the most`
  else if (within > value) note.value = `${+within.toFixed(3)} is the least`
  emit('change', within, undefined)
  emit('done')
  // What was not taken does not stay in the field as if it were.
  void nextTick(() => (taken = text.value = shown.value))
}

function enter(event: KeyboardEvent) {
  commit()
  const input = event.target as HTMLInputElement
  // What is wrong can be mended at once; in a form Enter is for the form.
  if (!wrong.value && !input.form) input.blur()
}

/** Takes back what was typed, and gives the keys back; a second time closes what the field is in. */
function escape(event: KeyboardEvent) {
  if (text.value !== shown.value) event.stopPropagation()
  text.value = taken = shown.value
  wrong.value = false
  note.value = ''
  ;(event.target as HTMLInputElement).blur()
}

function begin(event: FocusEvent) {
  taken = shown.value
  ;(event.target as HTMLInputElement).select()
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
        @blur="commit"
        @keydown.enter="enter"
        @keydown.escape="escape"
        @keydown.up.prevent="nudge((step ?? 0.1) * 10)"
        @keydown.down.prevent="nudge((step ?? 0.1) * -10)"
        @focus="begin"
      />
      <span v-if="unit" class="label shrink-0" :class="dial ? 'w-3' : 'w-8'">{{ unit }}</span>
      <BearingDial
        v-if="dial && value !== null"
        :label="label"
        :value="value"
        @change="(v, g) => emit('change', v, g)"
        @done="emit('done')"
      />
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
    <span v-if="note" class="text-[12px]" :class="wrong ? 'text-alarm' : 'text-ochre'" aria-live="polite">{{
      note
    }}</span>
  </label>
</template>
