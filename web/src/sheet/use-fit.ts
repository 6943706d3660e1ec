import { nextTick, watch, type Ref } from 'vue'
import { roomiest, type Frame } from '../map/room'
import { fit, toScreenX, toScreenY, type Viewport } from '../map/viewport'
import { viewOfThing } from '../map/zoom-wish'
import { useLevelStore } from '../stores/level'
import { useSheetStore } from '../stores/sheet'
import { useSurveyStore } from '../stores/survey'
import { useFrameSize } from '../ui/frame-size'

/** Room left between the level and what lies round it, pixels. */
const ROOM_PX = 10
/** The column of cards at the right, pixels. */
const CARD_PX = 306
/** So far beside its card something is moved, pixels. */
const ASIDE_PX = 24

/** Shows the level as large as the panels let it be, and keeps it so until somebody looks elsewhere. */
export function useFit(view: Viewport, main: Ref<HTMLElement | undefined>) {
  const levels = useLevelStore()
  const sheet = useSheetStore()
  const survey = useSurveyStore()
  const frame = useFrameSize()
  /** How it was fitted last. */
  let mark: { x: number; y: number; scale: number } | undefined
  let settled = false
  /** Has the fitted map been moved a little, so that its card does not cover what is chosen? */
  let aside = false

  function panels(): Frame[] {
    const base = main.value!.getBoundingClientRect()
    return [...main.value!.querySelectorAll('.panel:not([data-passing])')].flatMap((panel) => {
      const box = panel.getBoundingClientRect()
      if (box.width === 0 || box.height === 0) return []
      return [
        {
          left: box.left - base.left - ROOM_PX,
          top: box.top - base.top - ROOM_PX,
          right: box.right - base.left + ROOM_PX,
          bottom: box.bottom - base.top + ROOM_PX,
        },
      ]
    })
  }

  function fitLevel(): void {
    const { level } = levels
    if (!level || !main.value || view.width < 2) return
    const { extent } = level.settings
    const { width, height } = view
    const aspect = Math.max(0.01, (extent.maxX - extent.minX) / Math.max(1e-6, extent.maxY - extent.minY))
    const edge = { left: ROOM_PX, top: ROOM_PX, right: ROOM_PX, bottom: ROOM_PX }
    const room = roomiest(width, height, panels(), aspect)
    const [left, top] = [Math.max(edge.left, room.left), Math.max(edge.top, room.top)]
    const bottom = Math.max(edge.bottom, height - room.bottom)
    const right = Math.max(edge.right, width - room.right)
    // Where there is room beside it, it keeps clear of where a card will be.
    const slack = Math.max(0, width - left - right - (height - top - bottom) * aspect)
    const column = frame.value === 'small' ? 0 : CARD_PX
    const under = width - right - slack / 2 - (width - column)
    fit(view, extent, { left, top, right: right + 2 * Math.min(slack / 2, Math.max(0, under)), bottom })
    mark = { x: view.x, y: view.y, scale: view.scale }
    aside = false
  }

  /** Moves what was just chosen out from under its card; once nothing is chosen a map that was fitted is so again. */
  function uncover(): void {
    const card = main.value?.querySelector('[aria-label="Field card"]')?.getBoundingClientRect()
    if (sheet.selected.length === 0) {
      if (aside && isFitted()) fitLevel()
      return
    }
    const box = sheet.chosen && levels.level && viewOfThing(levels.level, sheet.chosen)
    if (!card || !box || !main.value || sheet.toolId !== 'choose') return
    const base = main.value.getBoundingClientRect()
    const x = toScreenX(view, (box.minX + box.maxX) / 2)
    const y = toScreenY(view, (box.minY + box.maxY) / 2)
    const left = card.left - base.left - ASIDE_PX
    if (x < left || x > view.width || y < card.top - base.top || y > card.bottom - base.top) return
    const fitted = isFitted()
    view.x += (x - left) / view.scale
    if (!fitted) return
    mark = { x: view.x, y: view.y, scale: view.scale }
    aside = true
  }
  watch(
    () => sheet.selected,
    () => void nextTick(uncover),
    { flush: 'post' },
  )

  const isFitted = () => mark?.x === view.x && mark.y === view.y && mark.scale === view.scale
  const again = () => void nextTick(() => isFitted() && fitLevel())

  watch(
    [
      () => view.width,
      () => view.height,
      // The legend is only looked up: it lies over the map.
      () => sheet.panels.register,
      () => sheet.panels.card,
      () => sheet.panels.drawer,
      () => sheet.drawerTab,
      () => sheet.stage,
    ],
    again,
    { flush: 'post' },
  )
  watch(
    () => survey.standing,
    (standing) => {
      // What the checks find first opens the drawer; from then on only what one does oneself moves the map.
      if (settled || standing !== 'known') return
      settled = true
      // Whoever has begun to work has the map where they want it.
      if (levels.steps.past.length === 0 && sheet.selected.length === 0 && sheet.toolId === 'choose') again()
    },
    { flush: 'post' },
  )

  return {
    fitLevel,
    /** Another level is opened. */
    begin: () => (settled = false),
  }
}
