<script setup lang="ts">
/** A small dial for a bearing in degrees: turned by hand or with the arrow keys, by five with Shift. */
const props = defineProps<{ label: string; value: number }>()
const emit = defineEmits<{ change: [value: number, gesture: string | undefined]; done: [] }>()

const BIG = 5
const round = (deg: number) => ((Math.round(deg) % 360) + 360) % 360

let gesture: string | undefined
function turn(event: PointerEvent) {
  if (!gesture) return
  const box = (event.currentTarget as Element).getBoundingClientRect()
  const dx = event.clientX - (box.left + box.width / 2)
  const dy = event.clientY - (box.top + box.height / 2)
  if (Math.hypot(dx, dy) < 3) return
  const deg = round((Math.atan2(dx, -dy) * 180) / Math.PI)
  emit('change', event.shiftKey ? round(Math.round(deg / 15) * 15) : deg, gesture)
}
function take(event: PointerEvent) {
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  gesture = `bearing-${event.timeStamp}`
  turn(event)
}
function letGo() {
  if (gesture) emit('done')
  gesture = undefined
}
function onKey(event: KeyboardEvent) {
  const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key]
  if (!by) return
  event.preventDefault()
  event.stopPropagation()
  emit('change', round(props.value + by * (event.shiftKey ? BIG : 1)), undefined)
  emit('done')
}
</script>

<template>
  <svg
    width="26"
    height="26"
    viewBox="-13 -13 26 26"
    class="shrink-0 cursor-grab touch-none rounded-full"
    role="slider"
    tabindex="0"
    :aria-label="`Dial: ${label}`"
    aria-valuemin="0"
    aria-valuemax="359"
    :aria-valuenow="round(value)"
    :aria-valuetext="`${round(value)}° from north, clockwise`"
    @pointerdown.prevent="take"
    @pointermove="turn"
    @pointerup="letGo"
    @pointercancel="letGo"
    @click.prevent
    @keydown="onKey"
  >
    <title>Turn to say which way; north is up. Arrow keys turn it too.</title>
    <circle r="11.5" fill="var(--sheet)" stroke="var(--ink)" />
    <path d="M0-11.5v4" stroke="var(--faded)" stroke-width="1.5" />
    <g :transform="`rotate(${value})`">
      <path d="M0 6V-8" stroke="var(--rust)" stroke-width="2" />
      <path d="M0-9.5l3.4 5h-6.8z" fill="var(--rust)" />
    </g>
  </svg>
</template>
