<script setup lang="ts">
import { boxOf, type Box2 } from '@tidytrail/core/geometry'
import { onMounted, ref, watch } from 'vue'
import type { Shown } from './import-form'

/** Where what is imported would lie on the sheet. */
const props = defineProps<{ extent: Box2; shown: Shown | undefined }>()
const canvas = ref<HTMLCanvasElement>()
const W = 320
const H = 220

const boxOfShown = (s: Shown): Box2 => {
  switch (s.kind) {
    case 'mesh':
      return { minX: s.x + s.plan.minX, minY: s.y + s.plan.minY, maxX: s.x + s.plan.maxX, maxY: s.y + s.plan.maxY }
    case 'shapes':
      return boxOf(s.features.flatMap((f) => f.points.map(([x, y]) => [x + s.x, y + s.y])))
    default:
      return { minX: s.x, minY: s.y, maxX: s.x + s.wide, maxY: s.y + s.deep }
  }
}

function paint() {
  const c = canvas.value?.getContext('2d')
  if (!c) return
  const style = getComputedStyle(document.documentElement)
  const ink = (name: string) => style.getPropertyValue(`--${name}`).trim()
  c.setTransform(1, 0, 0, 1, 0, 0)
  c.fillStyle = ink('desk')
  c.fillRect(0, 0, W, H)
  const e = props.extent
  const all = props.shown ? boxOf([[e.minX, e.minY], [e.maxX, e.maxY], ...corners(boxOfShown(props.shown))]) : e
  const k = Math.min((W - 20) / (all.maxX - all.minX || 1), (H - 20) / (all.maxY - all.minY || 1))
  const X = (x: number) => W / 2 + (x - (all.minX + all.maxX) / 2) * k
  const Y = (y: number) => H / 2 - (y - (all.minY + all.maxY) / 2) * k
  c.fillStyle = ink('paper')
  c.fillRect(X(e.minX), Y(e.maxY), (e.maxX - e.minX) * k, (e.maxY - e.minY) * k)
  const s = props.shown
  if (s?.kind === 'mesh') put(c, s.plan.width, s.plan.height, (n) => s.plan.ink[n], ink('ink'), boxOfShown(s), X, Y)
  else if (s?.kind === 'shade') {
    const { width, height, shade } = s.preview
    put(c, width, height, (n) => 255 - shade[n], ink('ink'), boxOfShown(s), X, Y)
  } else if (s?.kind === 'picture') {
    c.globalAlpha = 0.8
    c.drawImage(s.bitmap, X(s.x), Y(s.y + s.deep), s.wide * k, s.deep * k)
    c.globalAlpha = 1
  } else if (s) {
    c.strokeStyle = ink('rust')
    c.fillStyle = ink('tint')
    for (const f of s.features) {
      c.beginPath()
      f.points.forEach(([x, y], i) => (i === 0 ? c.moveTo(X(x + s.x), Y(y + s.y)) : c.lineTo(X(x + s.x), Y(y + s.y))))
      if (f.shape === 'polygon') {
        c.closePath()
        c.fill()
      }
      c.stroke()
    }
  }
  c.strokeStyle = ink('ink')
  c.strokeRect(X(e.minX), Y(e.maxY), (e.maxX - e.minX) * k, (e.maxY - e.minY) * k)
  if (s) {
    const b = boxOfShown(s)
    c.strokeStyle = ink('plum')
    c.setLineDash([3, 3])
    c.strokeRect(X(b.minX), Y(b.maxY), (b.maxX - b.minX) * k, (b.maxY - b.minY) * k)
    c.setLineDash([])
  }
}

const corners = (b: Box2) => [
  [b.minX, b.minY],
  [b.maxX, b.maxY],
]

function put(
  c: CanvasRenderingContext2D,
  width: number,
  height: number,
  alpha: (n: number) => number,
  colour: string,
  b: Box2,
  X: (x: number) => number,
  Y: (y: number) => number,
) {
  const off = new OffscreenCanvas(width, height)
  const o = off.getContext('2d')!
  const image = o.createImageData(width, height)
  for (let n = 0; n < width * height; n++) image.data[n * 4 + 3] = alpha(n)
  o.putImageData(image, 0, 0)
  o.globalCompositeOperation = 'source-in'
  o.fillStyle = colour
  o.fillRect(0, 0, width, height)
  c.drawImage(off, X(b.minX), Y(b.maxY), X(b.maxX) - X(b.minX), Y(b.minY) - Y(b.maxY))
}

onMounted(paint)
watch(() => [props.shown, props.extent], paint)
</script>

<template>
  <canvas
    ref="canvas"
    :width="W"
    :height="H"
    class="border border-ink"
    role="img"
    aria-label="Where it would lie on the sheet"
  />
</template>
