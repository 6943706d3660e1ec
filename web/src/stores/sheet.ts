import { defineStore } from 'pinia'
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import type { LooseFile } from '../ui/loose-files'

export const STAGES = ['ground', 'reach', 'routes', 'cast', 'rehearse', 'sign-off'] as const
export type StageId = (typeof STAGES)[number]
export const STAGE_NAMES: Record<StageId, string> = {
  ground: 'Ground',
  reach: 'Reach',
  routes: 'Routes',
  cast: 'Cast',
  rehearse: 'Rehearse',
  'sign-off': 'Sign-off',
}

export type LayingId = 'list' | 'along' | 'way' | 'sweep' | 'beside' | 'repeat' | 'reshape' | 'names'

/** What the sheet shows and what is chosen on it. */
export const useSheetStore = defineStore('sheet', () => {
  const stage = ref<StageId>('routes')
  const toolId = ref('choose')
  const selected = shallowRef<readonly string[]>([])
  const hovered = ref<string>()
  /** Layers of the legend that are not shown, by their ids. */
  const hidden = shallowRef<ReadonlySet<string>>(new Set())
  const panels = reactive({ register: true, card: true, drawer: true, legend: false })
  const drawerTab = ref('findings')
  const pointer = shallowRef<{ x: number; y: number; z: number }>()
  /** The route the drawing tool is to go on with when it is next taken in hand, and from which end. */
  const goOnWith = shallowRef<{ routeId: string; from: 'first' | 'last' }>()
  /** A line of help or refusal from the tool in hand. */
  const hint = ref('')
  /** Dialogs that anything on the sheet may open. */
  const arranging = ref(false)
  const settling = shallowRef<readonly string[]>()
  /** The import dialog: open, with the files that are to be imported where they are known. */
  const importing = shallowRef<true | readonly LooseFile[] | Promise<readonly LooseFile[]>>()
  const settingUp = ref(false)
  const overlook = ref(false)
  /** What is being laid or reshaped by figures, and the routes that would come of it. */
  const laying = ref<LayingId>()
  /** A text that was pasted on the map, for the list of places. */
  const pastedText = ref('')
  const sketch = shallowRef<
    readonly { line: readonly (readonly number[])[]; closed?: boolean; loose?: boolean; bare?: boolean }[]
  >([])
  /** The waypoints between which connections are shown. */
  const connecting = shallowRef<{ fromId?: string; toId?: string }>()
  /** A place pointed at in the side view of a route, to be shown on the map. */
  const crosshair = shallowRef<readonly number[]>()
  /** Moves that are only thought of so far, shown on the map. */
  const ghosts = shallowRef<readonly { from: readonly number[]; to: readonly number[] }[]>([])
  const chosen = computed(() => selected.value[0])

  /** In a small window the one panel that is brought up over the map. */
  const front = ref<'register' | 'card' | 'drawer'>()
  // What is settled, laid or connected by figures is so on the card.
  watch([settling, laying, connecting], (works) => {
    if (works.some((work) => work !== undefined)) front.value = 'card'
  })

  /** Opens the drawer at a tab. */
  function openDrawer(tab: string): void {
    drawerTab.value = tab
    panels.drawer = true
    front.value = 'drawer'
  }

  function choose(ids: readonly string[]): void {
    selected.value = ids
  }

  const isShown = (layer: string): boolean => !hidden.value.has(layer)
  function toggleLayer(layer: string): void {
    const now = new Set(hidden.value)
    if (!now.delete(layer)) now.add(layer)
    hidden.value = now
  }

  function toggle(id: string): void {
    selected.value = selected.value.includes(id) ? selected.value.filter((s) => s !== id) : [...selected.value, id]
  }

  return {
    stage,
    toolId,
    selected,
    hovered,
    hidden,
    isShown,
    toggleLayer,
    panels,
    drawerTab,
    front,
    openDrawer,
    pointer,
    goOnWith,
    hint,
    arranging,
    settling,
    importing,
    settingUp,
    overlook,
    laying,
    pastedText,
    sketch,
    connecting,
    crosshair,
    ghosts,
    chosen,
    choose,
    toggle,
  }
})
