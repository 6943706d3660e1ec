<script setup lang="ts">
import {
  IconArrowBackUp,
  IconArrowForwardUp,
  IconKeyboard,
  IconListDetails,
  IconMap2,
  IconMoon,
  IconMountain,
  IconSun,
} from '@tabler/icons-vue'
import { assetIdsOf, renameLevel, writeLevelFile } from '@tidytrail/core/level'
import { useEventListener, useNow } from '@vueuse/core'
import { computed, defineAsyncComponent, nextTick, onBeforeUnmount, onMounted, ref, watch, type Component } from 'vue'
import { useRouter } from 'vue-router'
import MapView from '../map/MapView.vue'
import { fit, makeViewport, zoomAt } from '../map/viewport'
import CastRegister from './registers/CastRegister.vue'
import GroundRegister from './registers/GroundRegister.vue'
import ReachRegister from './registers/ReachRegister.vue'
import RehearseRegister from './registers/RehearseRegister.vue'
import RoutesRegister from './registers/RoutesRegister.vue'
import SignOffRegister from './registers/SignOffRegister.vue'
import { useAssetStore } from '../stores/assets'
import { useLevelStore } from '../stores/level'
import { useRehearsalStore } from '../stores/rehearsal'
import { STAGES, useSheetStore, type StageId } from '../stores/sheet'
import { useSurveyStore } from '../stores/survey'
import type { Tool } from '../tools/tool'
import { downloadText } from '../ui/download'
import { ago } from '../ui/figures'
import { toast } from '../ui/toasts'
import { useTheme } from '../ui/theme'
import { useChoice } from './choice'
import { useClipboard } from './clipboard'
import ArrangeDialog from './dialogs/ArrangeDialog.vue'
import AsideDialog from './dialogs/AsideDialog.vue'
import ConflictDialog from './dialogs/ConflictDialog.vue'
import DoubtDialog from './dialogs/DoubtDialog.vue'
import DrawerPanel from './drawer/DrawerPanel.vue'
import FieldCard from './cards/FieldCard.vue'
import FindDialog from './dialogs/FindDialog.vue'
import ImportDialog from './imports/ImportDialog.vue'
import KeysDialog from './dialogs/KeysDialog.vue'
import LegendPanel from './LegendPanel.vue'
import LevelDialog from './dialogs/LevelDialog.vue'
import ScaleBox from './ScaleBox.vue'
import StageTrail from './StageTrail.vue'
import ToolStrip from './ToolStrip.vue'
import { viewOfThing, zoomWish } from './zoom'

/** Three dimensions are fetched only when somebody wants them. */
const OverlookView = defineAsyncComponent(() => import('../overlook/OverlookView.vue'))

const props = defineProps<{ id: string; stage?: string }>()
const router = useRouter()
const levels = useLevelStore()
const assets = useAssetStore()
const sheet = useSheetStore()
const survey = useSurveyStore()
const rehearsal = useRehearsalStore()
const { night, toggle: toggleNight } = useTheme()

const view = makeViewport()
const tools = ref<Tool[]>([])
const map = ref<InstanceType<typeof MapView>>()
const error = ref('')
const finding = ref(false)
const keys = ref(false)
const follow = ref(false)
const name = ref('')
const now = useNow({ interval: 20_000 })
const savedAt = ref(Date.now())
let fitted = false

const REGISTERS: Record<StageId, Component> = {
  ground: GroundRegister,
  reach: ReachRegister,
  routes: RoutesRegister,
  cast: CastRegister,
  rehearse: RehearseRegister,
  'sign-off': SignOffRegister,
}

const kept = computed(() => {
  switch (levels.keepState) {
    case 'kept':
      return `kept ${ago(now.value.getTime() - savedAt.value)} · revision ${levels.revision}`
    case 'keeping':
      return 'keeping …'
    case 'no-connection':
      return 'no connection; changes wait in this browser'
    case 'no-room':
      return 'the disk of the server is full; changes wait in this browser'
    case 'gone':
      return 'deleted elsewhere; changes wait in this browser'
    default:
      return 'changed elsewhere too: decide'
  }
})
const showingAside = ref(false)
watch([() => levels.revision, () => levels.keepState], () => (savedAt.value = Date.now()))

/** What the panels cover at the edges of the map, pixels. */
const FREE = { left: 272, top: 62, right: 318, bottom: 66 }
const fitLevel = () => levels.level && fit(view, levels.level.settings.extent, FREE)
function onReady() {
  if (fitted || !levels.level) return
  fitted = true
  fitLevel()
}

function go(stage: StageId) {
  void router.replace(`/levels/${props.id}/${stage}`)
}

watch(
  () => props.stage,
  (s) => {
    const stage = STAGES.find((k) => k === s) ?? 'routes'
    sheet.stage = stage
    if (stage === 'rehearse') sheet.drawerTab = 'run'
    else if (sheet.drawerTab === 'run') sheet.drawerTab = 'findings'
  },
  { immediate: true },
)
watch(
  () => sheet.stage,
  (s) => s !== props.stage && go(s),
)
watch(
  () => levels.level?.name,
  (n) => {
    name.value = n ?? ''
    document.title = n ? `${n} · Tidy Trail` : 'Tidy Trail'
  },
)
// What was pointed at with one tool is of no concern to the next.
watch(
  () => sheet.toolId,
  () => (sheet.spot = undefined),
)
watch(zoomWish, ({ id, at }) => {
  const level = levels.level
  if (!level) return
  const box = id
    ? viewOfThing(level, id)
    : at && { minX: at[0] - 12, maxX: at[0] + 12, minY: at[1] - 12, maxY: at[1] + 12 }
  if (!box) return
  const before = view.scale
  fit(view, box, FREE)
  // Look closer if need be, but never farther in than one can tell where one is.
  const most = Math.max(before, 9)
  if (view.scale > most)
    zoomAt(
      view,
      FREE.left + (view.width - FREE.left - FREE.right) / 2,
      FREE.top + (view.height - FREE.top - FREE.bottom) / 2,
      most / view.scale,
    )
})
watch(
  () => rehearsal.t,
  () => {
    if (!follow.value) return
    const n = rehearsal.cast.findIndex((m) => m.id === sheet.chosen)
    const m = n >= 0 ? rehearsal.moment(n) : undefined
    if (!m || m.state === 'waiting') return
    view.x = m.x + (FREE.right - FREE.left) / 2 / view.scale
    view.y = m.y - (FREE.bottom - FREE.top) / 2 / view.scale
  },
)

async function open() {
  error.value = ''
  fitted = false
  sheet.choose([])
  sheet.settling = undefined
  sheet.laying = undefined
  sheet.connecting = undefined
  sheet.overlook = false
  rehearsal.clear()
  survey.stop()
  try {
    await levels.open(props.id)
  } catch (e) {
    error.value = (e as Error).message
    return
  }
  await nextTick()
  if (view.width > 1) onReady()
  await survey.start()
}
watch(() => props.id, open)
onMounted(open)
onBeforeUnmount(() => {
  rehearsal.stop()
  survey.stop()
  levels.close()
  document.title = 'Tidy Trail'
})

function rename() {
  if (name.value.trim() && name.value !== levels.doc.name) levels.perform(renameLevel, { name: name.value })
  else name.value = levels.doc.name
}

const choice = useChoice()

useEventListener('keydown', (event: KeyboardEvent) => {
  const target = event.target as HTMLElement
  const typing =
    /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) &&
    !['range', 'checkbox', 'radio'].includes((target as HTMLInputElement).type)
  const command = event.ctrlKey || event.metaKey
  if (command && event.key.toLowerCase() === 'k') {
    event.preventDefault()
    finding.value = true
    return
  }
  if (
    event.defaultPrevented ||
    event.altKey ||
    !levels.level ||
    finding.value ||
    keys.value ||
    typing ||
    levels.conflictShown ||
    levels.doubt
  )
    return
  const key = event.key
  const done = () => event.preventDefault()
  if (command) {
    if (key.toLowerCase() === 'z') {
      done()
      if (event.shiftKey) levels.redo()
      else levels.undo()
    } else if (key.toLowerCase() === 'y') {
      done()
      levels.redo()
    } else if (key.toLowerCase() === 'a' && sheet.stage === 'routes') {
      // All stops of the chosen route, or all routes.
      done()
      const { routes } = levels.doc
      const route = routes[sheet.chosen ?? '']
      sheet.choose(route ? route.order : Object.keys(routes).filter((id) => !routes[id].hidden))
    }
    return
  }
  if (map.value?.tool.press?.(key)) return done()
  const onButton = target.tagName === 'BUTTON' || target.getAttribute('role') === 'option'
  if (key >= '1' && key <= '6') return go(STAGES[Number(key) - 1])
  const tool = tools.value.find((t) => t.key === key.toLowerCase() && t.stages.includes(sheet.stage))
  if (tool) {
    sheet.toolId = tool.id
    return
  }
  const pan = 60 / view.scale
  switch (key) {
    case '?':
      keys.value = true
      break
    case 'Escape':
      if (sheet.settling) sheet.settling = undefined
      else if (sheet.laying) sheet.laying = undefined
      else if (sheet.toolId !== 'choose') sheet.toolId = 'choose'
      else sheet.choose([])
      break
    case 'Delete':
    case 'Backspace':
      choice.remove()
      break
    case '+':
    case '=':
      zoomAt(view, view.width / 2, view.height / 2, 1.3)
      break
    case '-':
      zoomAt(view, view.width / 2, view.height / 2, 1 / 1.3)
      break
    case 'f':
      fitLevel()
      break
    case 'g':
      choice.settle()
      break
    case 'o':
      sheet.overlook = !sheet.overlook
      break
    case 'ArrowLeft':
    case 'ArrowRight':
    case 'ArrowUp':
    case 'ArrowDown': {
      if (onButton || (target as HTMLInputElement).type === 'range') return
      done()
      const [dx, dy] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[key]!
      if (sheet.toolId !== 'choose') {
        map.value?.steer(dx, dy, event.shiftKey)
        return
      }
      if (!choice.nudge(dx, dy)) {
        view.x += dx * pan
        view.y += dy * pan
      }
      break
    }
  }
  if (sheet.stage !== 'rehearse' && key === '.' && map.value?.strike(event.shiftKey)) return done()
  if (sheet.stage !== 'rehearse') return
  if (key === 'k') rehearsal.playOrPause()
  else if (key === 'j') rehearsal.faster(-1)
  else if (key === 'l') rehearsal.faster(1)
  else if (key === '.') rehearsal.stepBy(1)
  else if (key === ',') rehearsal.stepBy(-1)
  else if (key === 'Home') rehearsal.seek(0)
  else if (key === 'r') void rehearsal.begin(rehearsal.seed)
})
useEventListener('beforeunload', () => levels.release())

useClipboard(() => !!levels.level && !levels.conflictShown)

function exportFile() {
  const hashes = assetIdsOf(levels.doc)
  const inside = new Map(
    hashes.flatMap((hash) => (assets.bytes.has(hash) ? [[hash, assets.bytes.get(hash)!] as const] : [])),
  )
  if (inside.size < hashes.length) return toast('What was imported is still being fetched; try again in a moment.')
  downloadText(`${levels.doc.name}.tidytrail.json`, writeLevelFile(levels.doc, inside))
}
</script>

<template>
  <div class="relative flex h-full flex-col overflow-hidden">
    <header class="z-20 flex h-14 shrink-0 items-center gap-3 border-b-2 border-ink bg-sheet px-3.5">
      <RouterLink to="/" class="shrink-0" title="To the shelf" aria-label="To the shelf">
        <svg width="30" height="34" viewBox="0 0 30 34" aria-hidden="true" fill="none">
          <path d="M15 2 27 17 15 32 3 17Z" stroke="var(--ink)" stroke-width="2" fill="var(--sheet)" />
          <path d="M15 8c4 4-4 6 0 10s-3 5 0 8" stroke="var(--rust)" stroke-width="2" stroke-dasharray="4 2" />
        </svg>
      </RouterLink>
      <div class="w-[200px] shrink-0">
        <input
          v-if="levels.level"
          v-model="name"
          class="-ml-1 w-full truncate rounded-sm border border-transparent bg-transparent px-1 font-head text-[17px] leading-tight font-[650] hover:border-rule"
          aria-label="Name of the level"
          maxlength="200"
          :title="name"
          @change="rename"
          @keydown.enter="($event.target as HTMLInputElement).blur()"
        />
        <p
          class="truncate text-[12.5px]"
          :class="['kept', 'keeping'].includes(levels.keepState) ? 'text-faded' : 'font-bold text-alarm'"
          role="status"
          data-testid="kept"
          :title="kept"
        >
          <button
            v-if="levels.aside.length > 0"
            class="mr-1 font-bold text-alarm underline"
            @click="showingAside = true"
          >
            {{ levels.aside.length }} set aside</button
          ><button
            v-if="levels.conflict && !levels.conflictShown"
            class="underline"
            @click="levels.conflictShown = true"
          >
            {{ kept }}</button
          ><template v-else>{{ levels.level ? kept : 'opening …' }}</template>
        </p>
      </div>
      <StageTrail @go="go" />
      <div class="ml-auto flex items-center gap-0.5">
        <button
          class="btn-quiet"
          :disabled="levels.steps.past.length === 0"
          aria-label="Undo"
          :title="`Undo ${levels.steps.past.at(-1)?.label ?? ''} (Ctrl Z)`"
          @click="levels.undo()"
        >
          <IconArrowBackUp :size="18" />
        </button>
        <button
          class="btn-quiet"
          :disabled="levels.steps.future.length === 0"
          aria-label="Redo"
          :title="`Redo ${levels.steps.future.at(-1)?.label ?? ''} (Ctrl Shift Z)`"
          @click="levels.redo()"
        >
          <IconArrowForwardUp :size="18" />
        </button>
        <button
          class="btn-quiet"
          aria-label="Overlook"
          title="Overlook: the level standing up (O)"
          :aria-pressed="sheet.overlook"
          @click="sheet.overlook = !sheet.overlook"
        >
          <IconMountain :size="18" />
        </button>
        <button
          class="btn-quiet"
          aria-label="Legend"
          title="Legend: what is shown"
          :aria-pressed="sheet.panels.legend"
          @click="sheet.panels.legend = !sheet.panels.legend"
        >
          <IconMap2 :size="18" />
        </button>
        <button
          class="btn-quiet"
          aria-label="Fold or open the panels"
          title="Fold or open the panels"
          @click="((sheet.panels.register = !sheet.panels.register), (sheet.panels.card = sheet.panels.register))"
        >
          <IconListDetails :size="18" />
        </button>
        <button class="btn-quiet" aria-label="Keys" title="Keys (?)" @click="keys = true">
          <IconKeyboard :size="18" />
        </button>
        <button
          class="btn-quiet"
          :aria-label="night ? 'Day' : 'Night'"
          :title="night ? 'Day' : 'Night'"
          @click="toggleNight()"
        >
          <component :is="night ? IconSun : IconMoon" :size="18" />
        </button>
        <button class="btn-quiet" title="Write the level to a file" @click="exportFile">Export</button>
        <button class="btn-quiet whitespace-nowrap" title="Find anything (Ctrl K)" @click="finding = true">
          <kbd class="border border-rule px-1 text-[11px]">Ctrl K</kbd> find
        </button>
      </div>
    </header>

    <main class="relative min-h-0 flex-1 bg-desk">
      <MapView ref="map" :view="view" @ready="onReady" @tools="tools = $event" />
      <OverlookView v-if="sheet.overlook && levels.level" @close="sheet.overlook = false" />
      <template v-if="levels.level">
        <ToolStrip v-if="!sheet.overlook" class="absolute top-4 left-[264px] z-10" :tools="tools" />
        <div
          v-if="sheet.panels.register"
          class="absolute top-4 bottom-4 left-3.5 z-10 flex w-[236px] flex-col pointer-events-none"
        >
          <component :is="REGISTERS[sheet.stage]" class="pointer-events-auto" />
        </div>
        <div
          v-if="sheet.panels.card"
          class="pointer-events-none absolute top-4 right-3.5 bottom-4 z-10 flex flex-col items-end"
        >
          <FieldCard class="pointer-events-auto" :follow="follow" @follow="follow = $event" />
        </div>
        <div
          class="absolute right-[312px] bottom-3.5 left-[264px] z-10 flex flex-col items-start gap-2 pointer-events-none"
        >
          <ScaleBox
            v-if="!sheet.overlook"
            class="pointer-events-auto"
            :view="view"
            @zoom="zoomAt(view, view.width / 2, view.height / 2, $event)"
            @fit="fitLevel()"
          />
          <DrawerPanel class="pointer-events-auto w-full" />
        </div>
        <LegendPanel v-if="sheet.panels.legend" class="absolute top-[60px] right-[312px] z-20" />
      </template>
      <div v-else class="absolute inset-0 flex items-center justify-center">
        <div class="panel max-w-md p-5">
          <template v-if="error">
            <h1 class="text-lg">This level cannot be opened</h1>
            <p class="my-2">{{ error }}</p>
            <button class="btn" @click="open">Try again</button>
            <RouterLink class="btn ml-2" to="/">To the shelf</RouterLink>
          </template>
          <p v-else>Opening the level …</p>
        </div>
      </div>
    </main>
    <template v-if="levels.level">
      <FindDialog :open="finding" :tools="tools" @close="finding = false" @go="go" />
      <KeysDialog :open="keys" :tools="tools" @close="keys = false" />
      <ConflictDialog />
      <DoubtDialog />
      <AsideDialog :open="showingAside" @close="showingAside = false" />
      <ArrangeDialog v-if="sheet.arranging" />
      <LevelDialog v-if="sheet.settingUp" />
      <ImportDialog v-if="sheet.importing" :view="view" />
    </template>
  </div>
</template>
