<script setup lang="ts">
import { useEventListener, watchDebounced } from '@vueuse/core'
import { computed, defineAsyncComponent, nextTick, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { KIND_HITS, KIND_PAINTERS, overlookParts } from '../kinds'
import { connectionPainter } from '../kinds/route/draw-connections'
import { besideOneAnother } from '../kinds/route/side-by-side'
import MapView from '../map/MapView.vue'
import { fit, makeViewport, zoomAt } from '../map/viewport'
import { viewOfThing, zoomWish } from '../map/zoom-wish'
import { useLevelStore } from '../stores/level'
import { useRehearsalStore } from '../stores/rehearsal'
import { STAGES, useSheetStore, type StageId } from '../stores/sheet'
import { useInsightStore } from '../stores/insight'
import { useSeedsStore } from '../stores/seeds'
import { useSurveyStore } from '../stores/survey'
import type { Tool } from '../tools/tool'
import FieldCard from './cards/FieldCard.vue'
import { useClipboard } from './clipboard'
import { useLiveChoice } from './live-choice'
import ArrangeDialog from './dialogs/ArrangeDialog.vue'
import AsideDialog from './dialogs/AsideDialog.vue'
import ConflictDialog from './dialogs/ConflictDialog.vue'
import DoubtDialog from './dialogs/DoubtDialog.vue'
import FindDialog from './dialogs/FindDialog.vue'
import KeysDialog from './dialogs/KeysDialog.vue'
import LevelDialog from './dialogs/LevelDialog.vue'
import DrawerPanel from './drawer/DrawerPanel.vue'
import ImportDialog from './imports/ImportDialog.vue'
import LegendPanel from './LegendPanel.vue'
import { registersOf, STAGE_REGISTERS } from './registers'
import ScaleBox from './ScaleBox.vue'
import SheetHeader from './SheetHeader.vue'
import { TOOLS } from './tools'
import ToolStrip from './ToolStrip.vue'
import WatchStrip from './WatchStrip.vue'
import WorkerNotice from './WorkerNotice.vue'
import { filesDropped } from '../ui/loose-files'
import { useFieldKeys } from '../ui/field-keys'
import PanelBar from './PanelBar.vue'
import { useFrameSize } from '../ui/frame-size'
import { useFit } from './use-fit'
import { useSheetKeys } from './use-sheet-keys'
import { useSteering } from './use-steering'

/** Three dimensions are fetched only when somebody wants them. */
const OverlookView = defineAsyncComponent(() => import('../overlook/OverlookView.vue'))

const props = defineProps<{ id: string; stage?: string }>()
const router = useRouter()
const levels = useLevelStore()
const sheet = useSheetStore()
const survey = useSurveyStore()
const insight = useInsightStore()
const seeds = useSeedsStore()
const rehearsal = useRehearsalStore()

const view = makeViewport()
const tools = shallowRef<Tool[]>([])
const map = ref<InstanceType<typeof MapView>>()
const error = ref('')
const finding = ref(false)
const keys = ref(false)
const follow = ref(false)
let fitted = false

const showingAside = ref(false)
/** Once opened the Overlook stays built, to be there at once the next time. */
const overlooked = ref(false)
watch(
  () => sheet.overlook,
  (on) => on && (overlooked.value = true),
)

const PAINTERS = [...KIND_PAINTERS, connectionPainter]
/** Where routes that share legs are drawn beside one another. */
const routes = computed(() => levels.level?.routes)
const shifts = computed(() => besideOneAnother(routes.value ?? {}))
/** How far an arrow key moves the map, pixels. */
const PAN_PX = 60

const frame = useFrameSize()
/** What the panels may cover at the edges of the map when something is shown closely, pixels. */
const COVERED = {
  beside: { left: 272, top: 62, right: 318, bottom: 66 },
  over: { left: 20, top: 60, right: 20, bottom: 60 },
}
const free = computed(() => COVERED[frame.value === 'small' ? 'over' : 'beside'])
const shows = (panel: 'register' | 'card' | 'drawer') =>
  frame.value === 'small' ? sheet.front === panel : panel === 'drawer' || sheet.panels[panel]
const main = ref<HTMLElement>()
const { fitLevel, begin: beginFit } = useFit(view, main)
function onReady() {
  if (fitted || !levels.level) return
  fitted = true
  void nextTick(fitLevel)
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
    document.title = n ? `${n} · Tidy Trail` : 'Tidy Trail'
  },
)
// What was pointed at with one tool is of no concern to the next.
watch(
  () => sheet.toolId,
  () => (sheet.crosshair = undefined),
)
watch(zoomWish, ({ id, at }) => {
  const level = levels.level
  if (!level) return
  const box = id
    ? viewOfThing(level, id)
    : at && { minX: at[0] - 12, maxX: at[0] + 12, minY: at[1] - 12, maxY: at[1] + 12 }
  if (!box) return
  const before = view.scale
  const FREE = free.value
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
    const n = rehearsal.placeOf(sheet.chosen ?? '')
    const m = n >= 0 ? rehearsal.moment(n) : undefined
    if (!m) return
    const FREE = free.value
    view.x = m.x + (FREE.right - FREE.left) / 2 / view.scale
    view.y = m.y - (FREE.bottom - FREE.top) / 2 / view.scale
  },
)

async function open() {
  error.value = ''
  fitted = false
  beginFit()
  sheet.choose([])
  sheet.settling = undefined
  sheet.laying = undefined
  sheet.connecting = undefined
  sheet.overlook = overlooked.value = false
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
watchDebounced([() => view.x, () => view.y], () => survey.look(view.x, view.y), { debounce: 200 })
watch(
  () => sheet.stage,
  (stage) => survey.hush(stage === 'rehearse'),
  { immediate: true },
)
watch(() => props.id, open)
onMounted(open)
onBeforeUnmount(() => {
  rehearsal.stop()
  insight.stop()
  seeds.clear()
  survey.stop()
  levels.close()
  document.title = 'Tidy Trail'
})

useSteering()
useFieldKeys()
useLiveChoice()
useSheetKeys({
  tools,
  map,
  blocked: () => finding.value || keys.value,
  go,
  find: () => (finding.value = true),
  help: () => (keys.value = true),
  fit: fitLevel,
  zoom: (by) => zoomAt(view, view.width / 2, view.height / 2, by),
  pan(dx, dy) {
    view.x += (dx * PAN_PX) / view.scale
    view.y += (dy * PAN_PX) / view.scale
  },
})
useEventListener('beforeunload', () => levels.release())

/** Files dropped anywhere on the sheet are imported; what is dragged within the page is none of this. */
const holdsFiles = (event: DragEvent) => event.dataTransfer?.types.includes('Files') && levels.level
function allowFiles(event: DragEvent) {
  if (holdsFiles(event)) event.preventDefault()
}
function dropFiles(event: DragEvent) {
  if (!holdsFiles(event) || sheet.importing) return
  event.preventDefault()
  sheet.importing = filesDropped(event.dataTransfer)
}

useClipboard(() => !!levels.level && !levels.conflictShown)
</script>

<template>
  <div class="relative flex h-full flex-col overflow-hidden" @dragover="allowFiles" @drop="dropFiles">
    <SheetHeader @go="go" @keys="keys = true" @find="finding = true" @aside="showingAside = true" />

    <main
      ref="main"
      class="relative min-h-0 flex-1 bg-desk"
      :class="frame === 'small' ? 'panels-over' : 'panels-beside'"
    >
      <MapView
        ref="map"
        :view="view"
        :make-tools="TOOLS"
        :painters="PAINTERS"
        :hits="KIND_HITS"
        :shifts="shifts"
        @ready="onReady"
        @tools="tools = $event"
      />
      <OverlookView
        v-if="overlooked && levels.level"
        v-show="sheet.overlook"
        :shown="sheet.overlook"
        :parts="overlookParts"
        @close="sheet.overlook = false"
      />
      <template v-if="levels.level">
        <div v-if="!sheet.overlook" class="at-tools absolute z-10 flex flex-wrap items-start gap-2 pointer-events-none">
          <ToolStrip :tools="tools" />
          <WatchStrip v-if="sheet.stage === 'rehearse' && rehearsal.begun" class="pointer-events-auto" />
        </div>
        <div v-if="shows('register')" class="at-register absolute flex w-[236px] flex-col pointer-events-none">
          <component
            :is="STAGE_REGISTERS[sheet.stage]"
            :key="sheet.stage"
            :registers="registersOf(sheet.stage)"
            class="pointer-events-auto"
          />
        </div>
        <div v-if="shows('card')" class="at-card pointer-events-none absolute flex flex-col items-end">
          <FieldCard class="pointer-events-auto" :follow="follow" @follow="follow = $event" />
        </div>
        <div class="at-drawer absolute flex flex-col items-start justify-end gap-2 pointer-events-none">
          <WorkerNotice />
          <DrawerPanel v-if="shows('drawer')" class="pointer-events-auto w-full" />
        </div>
        <ScaleBox
          v-if="!sheet.overlook"
          class="at-scale absolute z-10"
          :view="view"
          :small="frame === 'small'"
          @zoom="zoomAt(view, view.width / 2, view.height / 2, $event)"
          @fit="fitLevel()"
        />
        <PanelBar v-if="frame === 'small'" class="absolute bottom-1.5 left-2 z-30" />
        <LegendPanel
          v-if="sheet.panels.legend"
          class="at-legend absolute z-20 max-h-[calc(100%-66px)] overflow-y-auto"
        />
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
