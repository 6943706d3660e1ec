<script setup lang="ts">
import { floorsAt, floorUnder, heightAt, terrainOf } from '@tidytrail/core/ground'
import { defaultProfile } from '@tidytrail/core/network'
import { eyesOf, thingOf, type Level } from '@tidytrail/core/level'
import { useElementSize, useEventListener } from '@vueuse/core'
import * as THREE from 'three'
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useAssetStore } from '../stores/assets'
import { useLevelStore } from '../stores/level'
import { useRehearsalStore } from '../stores/rehearsal'
import { useSheetStore } from '../stores/sheet'
import { useSurveyStore } from '../stores/survey'
import { useWatchingStore } from '../stores/watching'
import { lookOf } from '../map/layers/drop-of'
import { Wedges } from '../map/layers/senses'
import { metres } from '../ui/figures'
import { useTheme } from '../ui/theme'
import { readPaper } from './paper'
import type { OverlookPart } from './part'
import { OverlookScene, placeOf } from './scene'
import { useLifting } from './lifting'
import { whenLookedAt } from './when-looked-at'

/** The level standing up: the same sheet, seen from the side. */
const props = defineProps<{
  /** The parts things are drawn by, fetched when the Overlook opens. */
  parts: () => Promise<ReadonlyMap<string, OverlookPart>>
  /** Is it looked at? What changes while it is not is shown once it is again. */
  shown: boolean
}>()
const emit = defineEmits<{ close: [] }>()
const levels = useLevelStore()
const sheet = useSheetStore()
const survey = useSurveyStore()
const assets = useAssetStore()
const rehearsal = useRehearsalStore()
const watching = useWatchingStore()
const wedges = new Wedges()
const { heights, lift } = useLifting()
const { night } = useTheme()

const root = ref<HTMLElement>()
const canvas = ref<HTMLCanvasElement>()
const { width, height } = useElementSize(root)
const mode = ref<'orbit' | 'walk' | 'eyes'>('orbit')
const failed = ref('')
const keys = new Set<string>()

let renderer: THREE.WebGLRenderer | undefined
let world: OverlookScene | undefined
let controls: OrbitControls | undefined
const camera = new THREE.PerspectiveCamera(45, 1, 0.1, 20_000)
camera.up.set(0, 0, 1)
let drawn: ReadonlyMap<string, OverlookPart> = new Map()
let gone = false
let dirty = true
let frame = 0
let last = 0
/** Where one looks from on foot: turned by, looking up by, radians. */
const look = { yaw: Math.PI / 2, pitch: 0 }

const eyeM = computed(() => {
  const agent = mode.value === 'eyes' ? rehearsal.agents[rehearsal.placeOf(sheet.chosen ?? '')] : undefined
  const id = agent?.profileId ?? survey.profileId ?? defaultProfile(levels.doc)
  const profile = id ? levels.doc.profiles[id] : undefined
  return profile ? eyesOf(profile) : 1.7
})
const chosenPlace = computed(() =>
  sheet.chosen ? (placeOf(levels.doc, sheet.chosen) ?? agentPlace(sheet.chosen)) : undefined,
)
function agentPlace(id: string) {
  const n = rehearsal.placeOf(id)
  const now = n >= 0 ? rehearsal.moment(n) : undefined
  return now ? ([now.x, now.y, now.z] as const) : undefined
}

function build() {
  world?.dispose()
  const level = (built = levels.doc)
  world = new OverlookScene(level, readPaper(), drawn)
  world.tools.resolution.set(width.value, height.value)
  world.showGround(level)
  world.showParts(level, survey)
  agents()
  world.showChosen(level, sheet.selected)
  void reach()
  dirty = true
}
async function reach() {
  const level = levels.doc
  const { extent } = level.settings
  const every = Math.max(0.5, Math.sqrt(((extent.maxX - extent.minX) * (extent.maxY - extent.minY)) / 90_000))
  const stipple = sheet.isShown('reach') ? await survey.stipple(every) : undefined
  world?.showReach(stipple)
  dirty = true
}
function agents() {
  const seen = rehearsal.begun
    ? rehearsal.agents.flatMap((m, n) => {
        const now = rehearsal.moment(n)
        if (!now) return []
        return [
          {
            id: m.id,
            key: m.key,
            at: [now.x, now.y, now.z] as const,
            heading: now.heading,
            radiusM: m.radiusM,
            look: lookOf(levels.doc.factions[m.factionId ?? '']),
            heightM: levels.doc.profiles[m.profileId]?.heightM ?? 1.8,
            profile: levels.doc.profiles[m.profileId],
            now,
          },
        ]
      })
    : []
  world?.showAgents(seen.slice(0, 2000))
  const lookers = seen.filter((s) => s.profile && (watching.on.senses || sheet.selected.includes(s.id)))
  const found = wedges.of(terrainOf(levels.doc), lookers)
  world?.showSenses(found.flatMap((corners, k) => (corners ? [{ corners, z: lookers[k].now.z }] : [])))
  dirty = true
}

/** Looks at the whole level from the south, a little from above. */
function standBack() {
  const { minX, maxX, minY, maxY } = levels.doc.settings.extent
  // Far enough that the panels at either side leave it whole.
  const free = Math.max(0.35, (width.value - 580) / Math.max(1, width.value))
  const far = Math.max((maxX - minX) / free / camera.aspect, (maxY - minY) * 1.1)
  camera.position.set(0, -far * 0.88, far * 0.7)
  controls?.target.set(0, 0, 0)
  controls?.update()
  dirty = true
}

async function start() {
  drawn = await props.parts()
  if (gone || !canvas.value) return
  try {
    renderer = new THREE.WebGLRenderer({ canvas: canvas.value!, antialias: true })
  } catch {
    failed.value = 'This browser draws no three dimensions (WebGL is off).'
    return
  }
  renderer.setPixelRatio(Math.min(2, devicePixelRatio))
  controls = new OrbitControls(camera, canvas.value!)
  controls.enableDamping = false
  controls.maxPolarAngle = Math.PI * 0.495
  controls.mouseButtons = { LEFT: THREE.MOUSE.ROTATE, MIDDLE: THREE.MOUSE.PAN, RIGHT: THREE.MOUSE.PAN }
  controls.addEventListener('change', () => (dirty = true))
  fitCanvas()
  build()
  standBack()
  if (props.shown) frame = requestAnimationFrame(tick)
}

function tick(now: number) {
  frame = requestAnimationFrame(tick)
  const dt = Math.min(0.1, (now - last) / 1000)
  last = now
  if (mode.value === 'walk') walk(dt)
  if (mode.value === 'eyes') followEyes()
  if (!dirty || !renderer || !world) return
  dirty = false
  world.fitAgents(camera, mode.value === 'eyes' ? sheet.chosen : undefined)
  renderer.render(world.scene, camera)
}

function aim() {
  const target = camera.position.clone()
  const level = Math.cos(look.pitch)
  target.add(new THREE.Vector3(Math.cos(look.yaw) * level, Math.sin(look.yaw) * level, Math.sin(look.pitch)))
  camera.lookAt(target)
  dirty = true
}
/** On foot one begins on the ground or what lies low on it, not on a roof. */
const LOW_FLOOR_M = 1.5
const groundUnder = (x: number, y: number, z: number) => floorUnder(floorsAt(terrainOf(levels.doc), x, y), z, 0.6).z

function walk(dt: number) {
  const ahead = Number(keys.has('w') || keys.has('arrowup')) - Number(keys.has('s') || keys.has('arrowdown'))
  const aside = Number(keys.has('d') || keys.has('arrowright')) - Number(keys.has('a') || keys.has('arrowleft'))
  if (!world || (ahead === 0 && aside === 0)) return
  const speed = (keys.has('shift') ? 12 : 3.2) * dt
  const x = camera.position.x + (Math.cos(look.yaw) * ahead + Math.sin(look.yaw) * aside) * speed
  const y = camera.position.y + (Math.sin(look.yaw) * ahead - Math.cos(look.yaw) * aside) * speed
  const z = groundUnder(x + world.origin.x, y + world.origin.y, camera.position.z - eyeM.value + world.origin.z)
  camera.position.set(x, y, z - world.origin.z + eyeM.value)
  aim()
}

/** Stands where the chosen agent, waypoint or spawner is, and looks where it looks. */
function followEyes() {
  const id = sheet.chosen
  const at = chosenPlace.value
  if (!id || !at || !world) return
  const n = rehearsal.placeOf(id)
  const now = n >= 0 ? rehearsal.moment(n) : undefined
  const spot = now ? ([now.x, now.y, now.z] as const) : at
  const eye = world.local(spot, eyeM.value)
  if (now) look.yaw = now.heading
  if (camera.position.distanceToSquared(eye) < 1e-6 && !now) return
  camera.position.copy(eye)
  aim()
}

function setMode(next: typeof mode.value) {
  const before = mode.value
  mode.value = next
  if (!controls || !world) return
  controls.enabled = next === 'orbit'
  if (next === 'walk') {
    const at = chosenPlace.value
    const x = at ? at[0] : controls.target.x + world.origin.x
    const y = at ? at[1] : controls.target.y + world.origin.y
    const toward = new THREE.Vector3()
    camera.getWorldDirection(toward)
    look.yaw = Math.atan2(toward.y, toward.x)
    look.pitch = 0
    camera.position.copy(
      world.local(
        [x, y, at ? at[2] : groundUnder(x, y, heightAt(terrainOf(levels.doc).field, x, y) + LOW_FLOOR_M)],
        eyeM.value,
      ),
    )
    aim()
  } else if (next === 'eyes') {
    look.pitch = 0
    const { facingRad } = (thingOf(levels.doc, sheet.chosen ?? '')?.thing ?? {}) as { facingRad?: number }
    if (facingRad !== undefined) look.yaw = facingRad
    followEyes()
  } else if (before !== 'orbit') standBack()
}

let press:
  | {
      x: number
      y: number
      lift?: { from: Record<string, number>; gesture: string; perPx: number }
      yaw: number
      pitch: number
    }
  | undefined
function onDown(event: PointerEvent) {
  ;(document.activeElement as HTMLElement | null)?.blur()
  press = { x: event.clientX, y: event.clientY, yaw: look.yaw, pitch: look.pitch }
  if (event.shiftKey && event.button === 0 && sheet.selected.length > 0) {
    if (controls) controls.enabled = false
    const far = controls ? camera.position.distanceTo(controls.target) : 30
    const perPx = (2 * far * Math.tan((camera.fov * Math.PI) / 360)) / height.value
    press.lift = { from: heights(), gesture: `lift-${Date.now()}`, perPx }
    canvas.value!.setPointerCapture(event.pointerId)
  }
}
function onMove(event: PointerEvent) {
  if (!press) return
  if (press.lift) lift((press.y - event.clientY) * press.lift.perPx, press.lift.from, press.lift.gesture)
  else if (mode.value !== 'orbit' && event.buttons > 0) {
    look.yaw = press.yaw - (event.clientX - press.x) * 0.004
    look.pitch = Math.min(1.4, Math.max(-1.4, press.pitch + (event.clientY - press.y) * -0.004))
    aim()
  }
}
function onUp(event: PointerEvent) {
  const was = press
  press = undefined
  if (!was) return
  if (was.lift) {
    levels.release()
    if (controls) controls.enabled = mode.value === 'orbit'
  }
  if (Math.hypot(event.clientX - was.x, event.clientY - was.y) > 4 || !world || was.lift) return
  const box = canvas.value!.getBoundingClientRect()
  const ray = new THREE.Raycaster()
  ray.params.Line2 = { threshold: 6 } as never
  const at = new THREE.Vector2(
    ((event.clientX - box.left) / box.width) * 2 - 1,
    1 - ((event.clientY - box.top) / box.height) * 2,
  )
  ray.setFromCamera(at, camera)
  const id = world.pick(ray)
  if (!id) sheet.choose([])
  else if (event.shiftKey || event.ctrlKey) sheet.toggle(id)
  else sheet.choose([id])
}

const typing = (event: KeyboardEvent) => /^(INPUT|TEXTAREA|SELECT)$/.test((event.target as HTMLElement).tagName)
useEventListener(
  'keydown',
  (event: KeyboardEvent) => {
    if (!props.shown || typing(event) || event.ctrlKey || event.metaKey) return
    const key = event.key.toLowerCase()
    if (key === 'pageup' || key === 'pagedown') {
      event.preventDefault()
      lift((key === 'pageup' ? 1 : -1) * (event.shiftKey ? 1 : 0.1))
    } else if (
      mode.value === 'walk' &&
      ['w', 'a', 's', 'd', 'arrowup', 'arrowdown', 'arrowleft', 'arrowright', 'shift'].includes(key)
    ) {
      keys.add(key)
      event.preventDefault()
      event.stopPropagation()
    } else if (key === 'escape' && mode.value !== 'orbit') {
      setMode('orbit')
      event.preventDefault()
      event.stopPropagation()
    }
  },
  { capture: true },
)
useEventListener('keyup', (event: KeyboardEvent) => void keys.delete(event.key.toLowerCase()))
useEventListener('blur', () => keys.clear())

function fitCanvas() {
  if (!renderer || width.value === 0) return
  const size = renderer.getSize(new THREE.Vector2())
  if (size.x === width.value && size.y === height.value) return
  renderer.setSize(width.value, height.value, false)
  camera.aspect = width.value / height.value
  camera.updateProjectionMatrix()
  world?.tools.resolution.set(width.value, height.value)
  dirty = true
}
watch([width, height], fitCanvas)

const renewed = whenLookedAt(
  () => props.shown,
  () => {
    if (!world) return
    dirty = true
    last = performance.now()
    frame = requestAnimationFrame(tick)
  },
  () => {
    cancelAnimationFrame(frame)
    keys.clear()
  },
)
const show = (what: string, work: () => unknown) =>
  renewed(what, () => {
    if (!world || !levels.level) return
    work()
    dirty = true
  })
/** The level as it was shown last. */
let built: Level | undefined
function renew(): void {
  const now = levels.doc
  const before = built
  if (!world || !before || now.settings !== before.settings) return build()
  built = now
  if (now.ground !== before.ground) world.showGround(now)
  world.showParts(now, survey)
  world.showChosen(now, sheet.selected)
}
watch(
  () => levels.level,
  () => show('level', renew),
)
watch([() => survey.paths], () => show('paths', () => world!.showParts(levels.doc, survey)))
watch([() => survey.reach, () => survey.profileId, () => sheet.isShown('reach')], () => show('reach', reach))
watch(
  () => sheet.selected,
  () => show('chosen', () => world!.showChosen(levels.doc, sheet.selected)),
)
watch([() => rehearsal.t, () => rehearsal.agents, () => watching.on.senses, () => sheet.selected], () =>
  show('agents', agents),
)
watch([() => assets.version], () => show('all', build))
watch(night, () => requestAnimationFrame(() => show('all', build)))
onMounted(start)
onBeforeUnmount(() => {
  gone = true
  cancelAnimationFrame(frame)
  world?.dispose()
  controls?.dispose()
  renderer?.dispose()
})
const liftable = computed(() => Object.keys(heights()).length)
const heightWords = computed(() => {
  const list = Object.values(heights())
  return list.length === 1 ? `at ${metres(list[0])}` : ''
})
</script>

<template>
  <div
    ref="root"
    class="absolute inset-0 z-[5] bg-desk"
    data-testid="overlook"
    role="application"
    aria-label="Overlook of the level"
  >
    <canvas
      ref="canvas"
      class="h-full w-full touch-none"
      :style="{ cursor: mode === 'orbit' ? 'grab' : 'crosshair' }"
      @pointerdown="onDown"
      @pointermove="onMove"
      @pointerup="onUp"
      @contextmenu.prevent
    />
    <p v-if="failed" class="panel absolute top-1/2 left-1/2 -translate-x-1/2 p-4" role="alert">{{ failed }}</p>
    <div class="absolute top-4 left-[264px] z-10">
      <div class="panel inline-flex" role="toolbar" aria-label="Overlook">
        <button
          class="px-2.5 py-1"
          :class="mode === 'orbit' ? 'bg-ink font-bold text-sheet' : ''"
          :aria-pressed="mode === 'orbit'"
          @click="setMode('orbit')"
        >
          From above
        </button>
        <button
          class="border-l border-ink px-2.5 py-1"
          :class="mode === 'walk' ? 'bg-ink font-bold text-sheet' : ''"
          :aria-pressed="mode === 'walk'"
          @click="setMode('walk')"
        >
          On foot
        </button>
        <button
          class="border-l border-ink px-2.5 py-1"
          :class="mode === 'eyes' ? 'bg-ink font-bold text-sheet' : ''"
          :aria-pressed="mode === 'eyes'"
          :disabled="!chosenPlace"
          :title="chosenPlace ? 'Look from where the chosen one stands' : 'Choose an agent, a stop or a spawner first'"
          @click="setMode('eyes')"
        >
          Through its eyes
        </button>
        <button class="border-l border-ink px-2.5 py-1" @click="emit('close')">
          Back to the map <kbd class="text-[11px] text-faded">O</kbd>
        </button>
      </div>
      <p class="panel mt-1.5 w-fit border-rule! px-2 py-1 text-[13px]">
        <template v-if="mode === 'walk'"
          >W, A, S, D or arrows walk, dragging looks round, Shift hurries. Escape goes back up.</template
        >
        <template v-else-if="mode === 'eyes'"
          >Seen from {{ eyeM.toFixed(2) }} m above its feet. Dragging looks round.</template
        >
        <template v-else-if="liftable > 0"
          >Shift and drag, or Page Up and Page Down, move it up and down{{
            heightWords ? `; it is ${heightWords}` : ''
          }}.</template
        >
        <template v-else>Drag turns, the wheel comes nearer, the right button moves. Click chooses.</template>
      </p>
    </div>
  </div>
</template>
