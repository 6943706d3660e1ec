<script setup lang="ts">
import { assignRoute, type Level } from '@tidytrail/core/level'
import { floorsAt, floorUnder, terrainOf } from '@tidytrail/core/ground'
import { toMillimetre, type Box2, type Point3 } from '@tidytrail/core/geometry'
import { useDevicePixelRatio, useElementSize, useEventListener } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { drawAgents } from './layers/agents'
import { drawPlaces, drawSpawners } from './layers/cast'
import { drawAreas, drawCoverLabels, drawCovers, drawRingChosen } from '../kinds/cover/draw'
import { drawFindings } from './layers/findings'
import { drawFrame, drawGrid, drawGround } from './layers/ground'
import { drawConnections } from './layers/connections'
import { drawGhosts, drawRebuilding, drawRunner, drawSketch, drawSpot } from './layers/ghosts'
import { drawFrameChosen, drawMeshes, drawMeshLabels, drawUnderlays, underlayRing } from '../kinds/mesh/draw'
import { drawPassages, drawSuggestions } from '../kinds/passage/draw'
import { drawReach } from './layers/reach'
import { drawLinks, drawNodes } from '../kinds/link/draw'
import { drawRouteLines, drawStops } from '../kinds/route/draw'
import { drawSolidChosen, drawSolidLabels, drawSolids } from '../kinds/solid/draw'
import { besideOneAnother } from '../kinds/route/side-by-side'
import { hitAt, type HitKind } from './hit'
import { readInks, type Inks } from './inks'
import { X, Y, type Pen } from './pen'
import { toLevelX, toLevelY, zoomAt, type Viewport } from './viewport'
import { useAssetStore } from '../stores/assets'
import { useLevelStore } from '../stores/level'
import { randomId } from '../stores/random-id'
import { useRehearsalStore } from '../stores/rehearsal'
import { useSheetStore } from '../stores/sheet'
import { useSurveyStore } from '../stores/survey'
import { useTravelStore } from '../stores/travel'
import { TOOLS } from '../tools'
import { snapPlace, type Snap } from '../tools/snapping'
import { handlesOf } from '../kinds/solid/handles'
import type { MapPointer, Tool } from '../tools/tool'
import { useTheme } from '../ui/theme'
import { toast } from '../ui/toasts'

const props = defineProps<{ view: Viewport }>()
const emit = defineEmits<{ ready: []; tools: [tools: Tool[]] }>()

// The sheet owns the view; it is one shared object that the map moves.
const view = props.view
const levels = useLevelStore()
const assets = useAssetStore()
const sheet = useSheetStore()
const survey = useSurveyStore()
const rehearsal = useRehearsalStore()
const travel = useTravelStore()
const { night } = useTheme()

const root = ref<HTMLElement>()
const under = ref<HTMLCanvasElement>()
const over = ref<HTMLCanvasElement>()
const { width, height } = useElementSize(root)
const { pixelRatio } = useDevicePixelRatio()
const panKey = ref(false)
const panning = ref(false)

let inks: Inks | undefined
/** What is drawn beyond each edge of the window, pixels, so that the map can be moved without drawing it anew. */
const MARGIN_PX = 128
/** Where each canvas looked when it was last drawn. */
const drawnAt = { under: { x: 0, y: 0 }, over: { x: 0, y: 0 } }
let moved = false
let underDirty = true
let overDirty = true
let frame = 0

const chosen = computed(() => new Set(sheet.selected))
/** Routes that are chosen themselves or by one of their stops. */
const chosenRoutes = computed(() => {
  const ids = new Set<string>()
  for (const [id, route] of Object.entries(levels.level?.routes ?? {})) {
    if (chosen.value.has(id) || route.order.some((s) => chosen.value.has(s))) ids.add(id)
  }
  return ids
})

/** Where routes that share legs are drawn beside one another. */
const shifts = computed(() => besideOneAnother(levels.level?.routes ?? {}))

const context = {
  levels,
  sheet,
  survey,
  rehearsal,
  view,
  hit(p: { sx: number; sy: number }, kinds?: readonly HitKind[]) {
    const agents = rehearsal.begun
      ? rehearsal.cast.flatMap((m, n) => {
          const now = rehearsal.moment(n)
          return now && now.state !== 'waiting' ? [{ id: m.id, x: now.x, y: now.y }] : []
        })
      : []
    const { level } = levels
    if (!level) return undefined
    const scene = {
      level,
      view,
      ways: survey.ways,
      findings: survey.findings,
      agents,
      shown: sheet.shown,
      chosen: chosenRoutes.value,
      shifts: shifts.value,
      suggestions: survey.suggestions,
      stage: sheet.stage,
      pictures: assets.pictures,
    }
    return hitAt(scene, p.sx, p.sy, kinds)
  },
  place,
  redraw,
  done() {
    sheet.toolId = 'choose'
  },
}
const tools = TOOLS.map((make) => make(context))
const tool = computed(() => tools.find((t) => t.id === sheet.toolId) ?? tools[0])
// At once, so that what a tool says as it is laid down is not wiped away.
watch(
  tool,
  (_now, before) => {
    sheet.hint = ''
    before?.leave?.()
    redraw()
  },
  { flush: 'sync' },
)
watch(
  () => sheet.stage,
  (stage) => {
    if (!tool.value.stages.includes(stage)) sheet.toolId = 'choose'
  },
)

function place(x: number, y: number, options: { free?: boolean; nearZ?: number } = {}): Point3 {
  const level = levels.doc
  const { gridM, snap, extent } = level.settings
  const onGrid = (v: number) => (options.free || !snap ? toMillimetre(v) : toMillimetre(Math.round(v / gridM) * gridM))
  const px = Math.min(extent.maxX, Math.max(extent.minX, onGrid(x)))
  const py = Math.min(extent.maxY, Math.max(extent.minY, onGrid(y)))
  const floors = floorsAt(terrainOf(level), px, py)
  const floor =
    options.nearZ === undefined
      ? floors[floors.length - 1]
      : floors.reduce((a, b) => (Math.abs(b.z - options.nearZ!) < Math.abs(a.z - options.nearZ!) ? b : a))
  return [px, py, toMillimetre(floor.z)]
}

/** How near the pointer must come to a corner or edge to be drawn to it, pixels. */
const SNAP_PX = 9
let snap: Snap | undefined

function pointerOf(event: MouseEvent): MapPointer {
  const box = root.value!.getBoundingClientRect()
  const sx = event.clientX - box.left
  const sy = event.clientY - box.top
  const x = toLevelX(view, sx)
  const y = toLevelY(view, sy)
  snap = undefined
  let at = place(x, y, { free: event.altKey })
  if (tool.value.snapsTo === 'shapes' && !event.altKey) {
    const found = snapPlace(levels.doc, x, y, SNAP_PX / view.scale)
    if (found.to === 'corner' || found.to === 'edge') {
      snap = found
      at = place(found.at[0], found.at[1], { free: true })
    }
  }
  return {
    sx,
    sy,
    x,
    y,
    at,
    shift: event.shiftKey,
    alt: event.altKey,
    ctrl: event.ctrlKey || event.metaKey,
  }
}

let press: { x: number; y: number; mode: 'tool' | 'pan' | 'maybe-pan'; vx: number; vy: number } | undefined

function onDown(event: PointerEvent) {
  if (!levels.level) return
  ;(document.activeElement as HTMLElement | null)?.blur()
  root.value!.setPointerCapture(event.pointerId)
  const base = { x: event.clientX, y: event.clientY, vx: view.x, vy: view.y }
  if (event.button === 1 || event.button === 2 || panKey.value) {
    press = { ...base, mode: 'pan' }
    panning.value = true
    return
  }
  if (event.button !== 0) return
  sheet.hint = ''
  const taken = tool.value.down?.(pointerOf(event)) ?? false
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
  tool.value.move?.(p, press?.mode === 'tool')
}

function onUp(event: PointerEvent) {
  const was = press
  press = undefined
  panning.value = false
  if (was && was.mode !== 'pan' && levels.level) tool.value.up?.(pointerOf(event))
}

function onWheel(event: WheelEvent) {
  const p = pointerOf(event)
  zoomAt(view, p.sx, p.sy, Math.exp(-Math.max(-120, Math.min(120, event.deltaY)) * 0.0022))
}

function onDrop(event: DragEvent) {
  const routeId = event.dataTransfer?.getData('application/x-tidytrail-route')
  if (!routeId || !levels.doc.routes[routeId]) return
  const hit = context.hit(pointerOf(event), ['spawner'])
  if (hit?.kind !== 'spawner') {
    toast('Drop a route on a spawner to have its agents follow it.')
    return
  }
  levels.perform(assignRoute, { spawnerId: hit.id, routeId, briefId: randomId('briefs'), stepId: randomId('steps') })
  sheet.choose([hit.id])
}

function redraw() {
  overDirty = true
}
function redrawAll() {
  underDirty = overDirty = true
}

watch([width, height, pixelRatio], () => {
  if (width.value === 0) return
  view.width = width.value
  view.height = height.value
  for (const canvas of [under.value!, over.value!]) {
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
watch([() => view.scale, () => ({ ...sheet.shown }), () => sheet.stage, () => survey.profileId], redrawAll)
watch([() => view.x, () => view.y, panning], () => (moved = true))
watch(
  () => levels.level,
  (now, before) => {
    if (
      !now ||
      !before ||
      now.solids !== before.solids ||
      now.ground !== before.ground ||
      now.settings !== before.settings ||
      now.meshes !== before.meshes ||
      now.covers !== before.covers ||
      now.underlays !== before.underlays ||
      now.reachAreas !== before.reachAreas ||
      now.profiles !== before.profiles
    )
      underDirty = true
    overDirty = true
  },
)
watch([() => survey.reach, () => assets.version], () => {
  tool.value.surveyed?.()
  redrawAll()
})
watch(
  [
    () => survey.rebuilding,
    () => survey.suggestions,
    () => survey.connection,
    () => sheet.ghosts,
    () => sheet.sketch,
    () => sheet.spot,
    () => travel.at,
  ],
  redraw,
)
watch(
  [
    () => survey.ways,
    () => survey.findings,
    () => sheet.selected,
    () => sheet.hovered,
    () => rehearsal.t,
    () => rehearsal.cast,
  ],
  redraw,
)

function penOn(canvas: HTMLCanvasElement): Pen {
  const c = canvas.getContext('2d')!
  const ratio = pixelRatio.value
  inks ??= readInks(ratio)
  c.setTransform(ratio, 0, 0, ratio, 0, 0)
  // A plain copy: reading the shared view goes through its watchers, thousands of times a frame.
  const wide = { ...view, width: view.width + 2 * MARGIN_PX, height: view.height + 2 * MARGIN_PX }
  c.clearRect(0, 0, wide.width, wide.height)
  return { c, view: wide, inks, ratio }
}

function paintUnder(level: Level) {
  const pen = penOn(under.value!)
  drawGround(pen, level, sheet.shown.contours, () => {
    if (sheet.shown.underlays) drawUnderlays(pen, level, assets.pictures)
  })
  if (sheet.shown.covers) drawCovers(pen, level)
  if (sheet.shown.grid) drawGrid(pen, level)
  const reach = survey.profileId ? survey.reach.get(survey.profileId) : undefined
  if (sheet.shown.solids) {
    drawMeshes(pen, level, assets.plans)
    drawSolids(pen, level)
  }
  if (sheet.shown.reach && reach) drawReach(pen, reach, sheet.stage === 'reach')
  drawFrame(pen, level)
  if (sheet.shown.areas) drawAreas(pen, level, sheet.stage === 'reach')
  if (sheet.shown.covers && sheet.stage === 'ground') drawCoverLabels(pen, level)
  if (sheet.shown.solids) {
    drawMeshLabels(pen, level)
    drawSolidLabels(pen, level)
  }
}

function paintOver(level: Level) {
  const pen = penOn(over.value!)
  if (sheet.shown.solids) {
    for (const id of sheet.selected) {
      const solid = level.solids[id]
      if (solid) drawSolidChosen(pen, level, id, sheet.selected.length === 1 && !solid.locked ? handlesOf(solid) : [])
    }
  }
  for (const id of sheet.selected) {
    const ring = level.covers[id]?.ring ?? level.reachAreas[id]?.ring
    if (ring)
      drawRingChosen(pen, ring, sheet.selected.length === 1 && !(level.covers[id] ?? level.reachAreas[id]).locked)
    const mesh = terrainOf(level).meshes.find((m) => m.id === id)
    if (mesh) drawFrameChosen(pen, boxRing(mesh.box))
    const underlay = level.underlays[id]
    const picture = underlay && assets.pictures.get(underlay.assetId)
    if (picture) drawFrameChosen(pen, underlayRing(underlay, picture))
  }
  drawRebuilding(pen, survey.rebuilding)
  if (sheet.shown.passages) {
    drawPassages(pen, level, chosen.value, sheet.hovered)
    const hovered = /^suggestion-(\d+)$/.exec(sheet.hovered ?? '')
    if (sheet.stage === 'reach') drawSuggestions(pen, survey.suggestions, hovered ? Number(hovered[1]) : undefined)
  }
  if (sheet.shown.routes) {
    drawLinks(pen, level, chosen.value, sheet.hovered)
    const routes = Object.entries(level.routes)
      .filter(([, r]) => !r.hidden && r.kind !== 'network')
      .sort(([a], [b]) => Number(chosenRoutes.value.has(a)) - Number(chosenRoutes.value.has(b)))
    const looks = routes.map(([id]) => ({
      chosen: chosenRoutes.value.has(id),
      hovered: sheet.hovered === id,
      chosenStops: chosen.value,
      ways: survey.ways.get(id)?.ways,
      shifts: shifts.value.get(id),
    }))
    drawRouteLines(pen, level, routes, looks)
    routes.forEach(([, route], i) => drawStops(pen, level, route, looks[i]))
    drawNodes(pen, level, chosen.value, sheet.hovered)
  }
  if (sheet.shown.spawners) drawSpawners(pen, level, chosen.value, sheet.hovered)
  drawPlaces(pen, level, chosen.value)
  drawGhosts(pen, sheet.ghosts)
  drawSketch(pen, sheet.sketch)
  if (survey.connection) drawConnections(pen, level, survey.connection)
  if (sheet.spot) drawSpot(pen, sheet.spot)
  const runner = travel.moment(level)
  if (runner) drawRunner(pen, runner.at, runner.headingRad, runner.text)
  if (sheet.shown.agents && rehearsal.begun)
    drawAgents(pen, rehearsal.cast, rehearsal.moment, rehearsal.t, chosen.value)
  if (sheet.shown.findings) drawFindings(pen, survey.findings, chosen.value)
  tool.value.draw?.(pen)
  if (snap) drawSnap(pen, snap)
}

const boxRing = (b: Box2) => [
  [b.minX, b.minY],
  [b.maxX, b.minY],
  [b.maxX, b.maxY],
  [b.minX, b.maxY],
]

/** Shows what the pointer has been drawn to: a corner as a square, an edge as a cross stroke. */
function drawSnap(pen: Pen, { at, to }: Snap) {
  const x = X(pen, at[0])
  const y = Y(pen, at[1])
  pen.c.strokeStyle = pen.inks.colour.plum
  pen.c.lineWidth = 2
  pen.c.beginPath()
  if (to === 'corner') pen.c.rect(x - 6, y - 6, 12, 12)
  else pen.c.arc(x, y, 5, 0, 7)
  pen.c.stroke()
}

function paint() {
  frame = requestAnimationFrame(paint)
  const { level } = levels
  if (!level || view.width < 2) return
  if (moved) {
    moved = false
    if (slide(under.value!, drawnAt.under)) underDirty = true
    if (slide(over.value!, drawnAt.over)) overDirty = true
  }
  if (underDirty) {
    underDirty = false
    settle(under.value!, drawnAt.under)
    paintUnder(level)
  }
  if (overDirty) {
    overDirty = false
    settle(over.value!, drawnAt.over)
    paintOver(level)
  }
}

/** Moves what is drawn along with the map; true when it has to be drawn anew. */
function slide(canvas: HTMLCanvasElement, at: { x: number; y: number }): boolean {
  const dx = (at.x - view.x) * view.scale
  const dy = (view.y - at.y) * view.scale
  if (!panning.value || Math.abs(dx) > MARGIN_PX || Math.abs(dy) > MARGIN_PX) return true
  canvas.style.transform = `translate(${dx}px, ${dy}px)`
  return false
}
function settle(canvas: HTMLCanvasElement, at: { x: number; y: number }): void {
  at.x = view.x
  at.y = view.y
  canvas.style.transform = ''
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

/** A pointer that is moved by keys: where it is on the window, once it has been used. */
let steered: { x: number; y: number } | undefined
const byKeys = (p: { x: number; y: number }, shift: boolean) =>
  pointerOf({
    clientX: root.value!.getBoundingClientRect().left + p.x,
    clientY: root.value!.getBoundingClientRect().top + p.y,
    shiftKey: shift,
    altKey: false,
    ctrlKey: false,
    metaKey: false,
  } as MouseEvent)

/** Moves the tool in hand by squares of the grid, as the pointer would. */
function steer(dx: number, dy: number, shift: boolean): void {
  const step = levels.doc.settings.gridM * view.scale
  const from = steered ?? { x: view.width / 2, y: view.height / 2 }
  steered = {
    x: Math.min(view.width - 4, Math.max(4, from.x + dx * step)),
    y: Math.min(view.height - 4, Math.max(4, from.y - dy * step)),
  }
  const p = byKeys(steered, shift)
  sheet.spot = p.at
  sheet.pointer = { x: p.x, y: p.y, z: p.at[2] }
  tool.value.move?.(p, false)
}
/** Clicks with the tool in hand where it has been moved to by keys. */
function strike(shift: boolean): boolean {
  if (!steered) return false
  const p = byKeys(steered, shift)
  tool.value.down?.(p)
  tool.value.up?.(p)
  return true
}

defineExpose({ tool, steer, strike })
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
    @contextmenu.prevent
    @dragover.prevent
    @drop.prevent="onDrop"
  >
    <canvas ref="under" class="absolute max-w-none" :style="frameStyle" />
    <canvas ref="over" class="absolute max-w-none" :style="frameStyle" />
  </div>
</template>
