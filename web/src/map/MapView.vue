<script setup lang="ts">
import type { Level } from '@tidytrail/core/level'
import { floorsAt, floorUnder, terrainOf } from '@tidytrail/core/ground'
import { useDevicePixelRatio, useElementSize, useEventListener } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useAssetStore } from '../stores/assets'
import { useInsightStore } from '../stores/insight'
import { useLevelStore } from '../stores/level'
import { useRehearsalStore } from '../stores/rehearsal'
import { useSheetStore } from '../stores/sheet'
import { useSurveyStore } from '../stores/survey'
import { useTrafficStore } from '../stores/traffic'
import { useTravelStore } from '../stores/travel'
import { useCastStore } from '../stores/cast'
import { useWatchingStore } from '../stores/watching'
import type { MakeTool, Tool } from '../tools/tool'
import { useTheme } from '../ui/theme'
import { BASE_HITS } from './base-hits'
import { basePainters } from './base-painters'
import type { HitTest } from './hit'
import { readInks, type Inks } from './inks'
import type { Painter } from './layer'
import { drawSnap } from './layers/snap'
import { onlyThings } from './only-things'
import type { Pen } from './pen'
import { Picture } from './picture'
import type { MapScene } from './scene'
import { allOf, inTurn } from './sliced'
import { MARGIN_PX, Slide } from './slide'
import { takeDrops } from './take-drops'
import { useTools } from './use-tools'
import { zoomAt, type Viewport } from './viewport'

const props = defineProps<{
  view: Viewport
  makeTools: readonly MakeTool[]
  /** How things are drawn, and found under the pointer. */
  painters: readonly Painter[]
  hits: readonly HitTest[]
  /** How far beside their line routes that share a leg are drawn, pixels. */
  shifts: ReadonlyMap<string, readonly number[]>
}>()
const emit = defineEmits<{ ready: []; tools: [tools: Tool[]] }>()

// The sheet owns the view; it is one shared object that the map moves.
const { view, makeTools, painters: given, hits } = props
const levels = useLevelStore()
const assets = useAssetStore()
const sheet = useSheetStore()
const survey = useSurveyStore()
const rehearsal = useRehearsalStore()
const travel = useTravelStore()
const watching = useWatchingStore()
const cast = useCastStore()
const insight = useInsightStore()
const traffic = useTrafficStore()
const { night } = useTheme()
const stores = {
  cast,
  levels,
  sheet,
  survey,
  rehearsal,
  travel,
  watching,
  insight,
}

const root = ref<HTMLElement>()
const under = ref<HTMLCanvasElement>()
const over = ref<HTMLCanvasElement>()
/** What follows the hand is drawn at once, however long all the rest takes. */
const hand = ref<HTMLCanvasElement>()
/** What moves while nobody does anything has a canvas of its own, so that the rest need not be drawn for it. */
const top = ref<HTMLCanvasElement>()
const { width, height } = useElementSize(root)
const { pixelRatio } = useDevicePixelRatio()
const panKey = ref(false)
const panning = ref(false)

let inks: Inks | undefined
/** Time for drawing in a frame, ms. */
const DRAWS_MS = 4
/** Less than this is not worth beginning. */
const LEAST_MS = 1.5
const pictures = {
  under: new Picture(
    () => under.value!,
    (c, at) => paintersOn('under', c, at),
  ),
  over: new Picture(
    () => over.value!,
    (c, at) => paintersOn('over', c, at),
  ),
}
const slides = { hand: new Slide(), top: new Slide() }
let moved = false
let handDirty = true
let topDirty = true
let frame = 0

const paper = given.filter((p) => p.on === 'paper')
const drawn = [...given, ...basePainters(stores, paper)].sort((a, b) => a.order - b.order)
/** The collections that are drawn on the canvas of what stands still. */
const underReads = [...new Set(drawn.filter((p) => p.on === 'under' || p.on === 'paper').flatMap((p) => p.reads ?? []))]

const chosen = computed(() => new Set(sheet.selected))
/** Routes that are chosen themselves or by one of their stops. */
const chosenRoutes = computed(() => {
  const ids = new Set<string>()
  for (const [id, route] of Object.entries(levels.level?.routes ?? {})) {
    if (chosen.value.has(id) || route.order.some((s) => chosen.value.has(s))) ids.add(id)
  }
  return ids
})

function agentsSeen() {
  if (!rehearsal.begun) return []
  return rehearsal.agents.flatMap((m, n) => {
    const now = rehearsal.moment(n)
    return now ? [{ id: m.id, x: now.x, y: now.y }] : []
  })
}

function sceneOf(level: Level): MapScene {
  return {
    level,
    whole: levels.doc,
    stage: sheet.stage,
    isShown: sheet.isShown,
    chosen: chosen.value,
    alone: sheet.selected.length === 1 ? sheet.chosen : undefined,
    hovered: sheet.hovered,
    chosenRoutes: chosenRoutes.value,
    paths: survey.paths,
    shifts: props.shifts,
    findings: survey.findings,
    get agents() {
      return agentsSeen()
    },
    suggestions: survey.suggestions,
    pictures: assets.pictures,
    plans: assets.plans,
  }
}

const { context, tools, tool, taker, snap, pointerOf, keys } = useTools(stores, {
  view,
  make: makeTools,
  hits: [...hits, ...BASE_HITS],
  root,
  scene: () => levels.level && sceneOf(levels.level),
  redraw,
})

let press: { x: number; y: number; mode: 'tool' | 'pan' | 'maybe-pan'; vx: number; vy: number; by: Tool } | undefined

function onDown(event: PointerEvent) {
  if (!levels.level) return
  ;(document.activeElement as HTMLElement | null)?.blur()
  root.value!.setPointerCapture(event.pointerId)
  const by = taker(pointerOf(event))
  const base = { x: event.clientX, y: event.clientY, vx: view.x, vy: view.y, by }
  if (event.button === 1 || event.button === 2 || panKey.value) {
    press = { ...base, mode: 'pan' }
    panning.value = true
    return
  }
  if (event.button !== 0) return
  sheet.hint = ''
  const taken = by.down?.(pointerOf(event)) ?? false
  press = { ...base, mode: taken ? 'tool' : 'maybe-pan' }
}

function onMove(event: PointerEvent) {
  if (!levels.level) return
  const p = pointerOf(event)
  const floors = floorsAt(terrainOf(levels.doc), p.x, p.y)
  sheet.pointer = { x: p.x, y: p.y, z: floorUnder(floors, Infinity).z }
  if (press && press.mode !== 'tool') {
    const dx = event.clientX - press.x
    const dy = event.clientY - press.y
    if (press.mode === 'maybe-pan' && Math.hypot(dx, dy) > 4) {
      press.mode = 'pan'
      panning.value = true
    }
    if (press.mode === 'pan') {
      view.x = press.vx - dx / view.scale
      view.y = press.vy + dy / view.scale
    }
    return
  }
  const by = press?.by ?? tool.value
  by.move?.(p, press?.mode === 'tool')
}

function onUp(event: PointerEvent) {
  const was = press
  press = undefined
  panning.value = false
  if (was && was.mode !== 'pan' && levels.level) was.by.up?.(pointerOf(event))
}

/** Breaks off what the pointer is held down for, as if it had never gone down; false when it is not. */
function cancel(): boolean {
  const was = press
  const abandoned = levels.abandon()
  press = undefined
  panning.value = false
  const by = keys.release() ?? (was?.mode === 'tool' ? was.by : undefined)
  by?.leave?.()
  redraw()
  return abandoned || by !== undefined || was?.mode === 'pan'
}

function onWheel(event: WheelEvent) {
  const p = pointerOf(event)
  zoomAt(view, p.sx, p.sy, Math.exp(-Math.max(-120, Math.min(120, event.deltaY)) * 0.0022))
}

const onDrop = takeDrops(levels, sheet, (event) => context.hit(pointerOf(event), ['spawners'])?.id)

/** The tool in hand, or something that is only thought of, looks different. */
function redraw() {
  handDirty = true
}
function redrawThings() {
  pictures.over.soil()
  handDirty = true
}
function redrawMoving() {
  topDirty = true
}
function redrawAll() {
  pictures.under.soil()
  redrawThings()
  redrawMoving()
}

watch([width, height, pixelRatio], () => {
  if (width.value === 0) return
  view.width = width.value
  view.height = height.value
  for (const canvas of [under.value!, over.value!, hand.value!, top.value!]) {
    canvas.width = Math.round((width.value + 2 * MARGIN_PX) * pixelRatio.value)
    canvas.height = Math.round((height.value + 2 * MARGIN_PX) * pixelRatio.value)
  }
  inks = undefined
  redrawAll()
  emit('ready')
})
watch(night, () => {
  // The page's variables change with the attribute, which is set in the same flush.
  requestAnimationFrame(() => {
    inks = undefined
    redrawAll()
  })
})
watch([() => sheet.hidden, () => sheet.stage, () => survey.profileId], redrawAll)
watch([() => view.x, () => view.y, () => view.scale, panning], () => (moved = true))
watch(
  () => levels.level,
  (now, before) => {
    const still =
      now && before && now.ground === before.ground && now.settings === before.settings
        ? underReads.every((c) => now[c] === before[c])
        : false
    if (!still) pictures.under.soil()
    redrawThings()
  },
)
watch([() => survey.seen, () => assets.version], () => tool.value.surveyed?.())
watch([() => survey.reach, () => assets.version], redrawAll)
watch([() => traffic.t, () => traffic.pair, () => sheet.selected], redraw)
watch([() => sheet.ghosts, () => sheet.sketch, () => sheet.crosshair, () => travel.at, tool], redraw)
watch(
  [
    () => survey.rebuilding,
    () => survey.suggestions,
    () => survey.connection,
    () => survey.paths,
    () => survey.findings,
    () => cast.facts,
    () => cast.pointed,
    () => cast.suggested,
    () => sheet.selected,
    () => sheet.hovered,
  ],
  redrawThings,
)
watch(
  [
    () => levels.level,
    () => sheet.selected,
    () => rehearsal.begun,
    () => rehearsal.t,
    () => rehearsal.agents,
    () => rehearsal.frameCount,
    () => rehearsal.earlier,
    () => ({ ...watching.on }),
    () => watching.heat,
    () => [insight.spots, insight.lines, insight.coverage, insight.pointed, insight.whyPath, sheet.stage],
    () => watching.strayed,
  ],
  redrawMoving,
)

/** A pen on a clean canvas, for the map and what lies just beyond its edges. */
function penOn(c: CanvasRenderingContext2D, at: Viewport = view): Pen {
  const ratio = pixelRatio.value
  inks ??= readInks(ratio)
  c.setTransform(ratio, 0, 0, ratio, 0, 0)
  // A plain copy: reading the shared view goes through its watchers, thousands of times a frame.
  const wide = { ...at, width: at.width + 2 * MARGIN_PX, height: at.height + 2 * MARGIN_PX }
  c.clearRect(0, 0, wide.width, wide.height)
  return { c, view: wide, inks, ratio }
}

/** All that is drawn on one of the canvases, in order. */
function* paintersOn(on: Painter['on'], c: CanvasRenderingContext2D, at: Viewport) {
  const pen = penOn(c, at)
  const { level } = levels
  if (!level) return
  const scene = sceneOf(level)
  for (const painter of drawn) if (painter.on === on && isDrawn(painter, scene)) yield () => painter.draw(pen, scene)
}

/** Is it drawn on this stage, with the layers that are shown? */
const isDrawn = (painter: Painter, scene: MapScene) =>
  (!painter.stage || painter.stage === scene.stage) && (!painter.layer || scene.isShown(painter.layer))

/** What is chosen or pointed at, for as long as the picture of all things is not ready. */
const touched = () => [...chosen.value, ...chosenRoutes.value, ...(sheet.hovered ? [sheet.hovered] : [])]

function paintHand(level: Level) {
  slides.hand.settle(hand.value!, view)
  const c = hand.value!.getContext('2d')!
  const pen = penOn(c)
  const scene = sceneOf(level)
  const ids = pictures.over.fresh ? [] : touched()
  const some = ids.length > 0 ? sceneOf(onlyThings(level, ids)) : undefined
  for (const painter of drawn) {
    if (!isDrawn(painter, scene)) continue
    if (painter.on === 'hand') allOf(painter.draw(pen, scene))
    else if (some && painter.on === 'over' && painter.reads) allOf(painter.draw(pen, some))
  }
  tool.value.draw?.(pen)
  if (snap.value) drawSnap(pen, snap.value)
}

function paintTop() {
  slides.top.settle(top.value!, view)
  // Nothing to be seen is nothing to be put together with the rest.
  const shown = rehearsal.begun || sheet.stage === 'rehearse'
  top.value!.style.display = shown ? '' : 'none'
  if (shown) allOf(inTurn(paintersOn('top', top.value!.getContext('2d')!, view)))
}

let overWasFresh = true
let overFirst = true
function paint() {
  frame = requestAnimationFrame(paint)
  const { level } = levels
  if (!level || view.width < 2) return
  if (moved) {
    moved = false
    // Where the map looks, for whoever asks the page.
    root.value!.dataset.view = `${view.x} ${view.y} ${view.scale}`
    if (slides.hand.move(hand.value!, view, panning.value)) handDirty = true
    if (slides.top.move(top.value!, view, panning.value)) topDirty = true
  }
  // By turns, so that neither waits for long; what time the first leaves is the other's.
  const from = performance.now()
  const turns = overFirst ? [pictures.over, pictures.under] : [pictures.under, pictures.over]
  for (const picture of turns) {
    const left = DRAWS_MS - (performance.now() - from)
    picture.frame(view, panning.value, left > LEAST_MS ? left : 0)
  }
  overFirst = !overFirst
  // What the hand shows of things is of use only until they are drawn themselves.
  if (pictures.over.fresh !== overWasFresh) handDirty = true
  overWasFresh = pictures.over.fresh
  if (handDirty) {
    handDirty = false
    paintHand(level)
  }
  if (topDirty) {
    topDirty = false
    paintTop()
  }
}

useEventListener('keydown', (event: KeyboardEvent) => {
  if (event.code === 'Space' && event.target === document.body) {
    panKey.value = true
    event.preventDefault()
  }
})
useEventListener('keyup', (event: KeyboardEvent) => {
  if (event.code === 'Space') panKey.value = false
})
onMounted(() => {
  emit('tools', tools)
  frame = requestAnimationFrame(paint)
})
onBeforeUnmount(() => cancelAnimationFrame(frame))

const frameStyle = computed(() => ({
  left: `${-MARGIN_PX}px`,
  top: `${-MARGIN_PX}px`,
  width: `${width.value + 2 * MARGIN_PX}px`,
  height: `${height.value + 2 * MARGIN_PX}px`,
}))

defineExpose({ tool, keys, cancel })
</script>

<template>
  <div
    ref="root"
    class="absolute inset-0 touch-none overflow-hidden"
    data-testid="map"
    role="application"
    aria-label="Map of the level"
    :style="{ cursor: panning ? 'grabbing' : panKey ? 'grab' : tool.cursor }"
    @pointerdown="onDown"
    @pointermove="onMove"
    @pointerup="onUp"
    @pointercancel="onUp"
    @dblclick="levels.level && tool.doubleClick?.(pointerOf($event))"
    @wheel.prevent="onWheel"
    @mousedown.middle.prevent
    @mouseup.middle.prevent
    @auxclick.middle.prevent
    @contextmenu.prevent
    @dragover.prevent
    @drop.prevent="onDrop"
  >
    <canvas ref="under" class="absolute max-w-none" :style="frameStyle" />
    <canvas ref="over" class="absolute max-w-none" :style="frameStyle" />
    <canvas ref="hand" class="absolute max-w-none" :style="frameStyle" />
    <canvas ref="top" class="absolute max-w-none" :style="frameStyle" />
  </div>
</template>
