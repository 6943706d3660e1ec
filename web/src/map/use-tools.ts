import { floorsAt, terrainOf } from '@tidytrail/core/ground'
import { toMillimetre, type Point3 } from '@tidytrail/core/geometry'
import { computed, ref, watch, type Ref } from 'vue'
import { snapPlace, type Snap } from '../tools/snapping'
import type { MakeTool, MapPointer, Tool, ToolContext } from '../tools/tool'
import type { MapStores } from './base-painters'
import { hitAt, type HitTest } from './hit'
import { keyPointer } from './key-pointer'
import type { MapScene } from './scene'
import { toLevelX, toLevelY, type Viewport } from './viewport'

/** How near the pointer must come to a corner or edge to be drawn to it, pixels. */
const SNAP_PX = 9

/** The tools of the map, the one in hand, and the pointer as tools are told of it. */
export function useTools(
  { levels, sheet, survey, rehearsal }: MapStores,
  options: {
    readonly view: Viewport
    readonly make: readonly MakeTool[]
    readonly hits: readonly HitTest[]
    readonly root: Ref<HTMLElement | undefined>
    scene(): MapScene | undefined
    redraw(): void
  },
) {
  const { view, root, redraw } = options
  const hits = [...options.hits].sort((a, b) => a.order - b.order)
  const snap = ref<Snap>()

  /** A place on the grid, unless it is to be free, within the level, and on the floor nearest to a height. */
  function place(x: number, y: number, how: { free?: boolean; nearZ?: number } = {}): Point3 {
    const level = levels.doc
    const { gridM, snap: snaps, extent } = level.settings
    const onGrid = (v: number) => toMillimetre(how.free || !snaps ? v : Math.round(v / gridM) * gridM)
    const px = Math.min(extent.maxX, Math.max(extent.minX, onGrid(x)))
    const py = Math.min(extent.maxY, Math.max(extent.minY, onGrid(y)))
    const floors = floorsAt(terrainOf(level), px, py)
    const floor =
      how.nearZ === undefined
        ? floors[floors.length - 1]
        : floors.reduce((a, b) => (Math.abs(b.z - how.nearZ!) < Math.abs(a.z - how.nearZ!) ? b : a))
    return [px, py, toMillimetre(floor.z)]
  }

  const context: ToolContext = {
    levels,
    sheet,
    survey,
    rehearsal,
    view,
    hit(p, kinds) {
      const scene = options.scene()
      return scene && hitAt(hits, scene, view, p.sx, p.sy, kinds)
    },
    place,
    redraw,
    done() {
      sheet.toolId = 'choose'
    },
  }
  const tools = options.make.map((make) => make(context))
  const tool = computed(() => tools.find((t) => t.id === sheet.toolId) ?? tools[0])
  // At once, so that what a tool says as it is laid down is not wiped away.
  watch(
    tool,
    (_now, before) => {
      sheet.hint = ''
      keys.release()
      if (tool.value.id === 'choose') keys.put(false)
      before?.leave?.()
      redraw()
    },
    { flush: 'sync' },
  )
  watch(
    () => sheet.stage,
    (stage) => {
      // A crosshair of one stage is of no concern to the next.
      keys.release()?.leave?.()
      keys.put(false)
      sheet.crosshair = undefined
      if (!tool.value.stages.includes(stage)) sheet.toolId = 'choose'
    },
  )

  /** What takes a press: the tool in hand, or the one that chooses and moves where it is on what was placed last. */
  function taker(p: MapPointer): Tool {
    const { places, busy } = tool.value
    return places && !p.alt && !busy?.() && tools[0].grabs?.(p, places) ? tools[0] : tool.value
  }

  function pointerOf(event: MouseEvent): MapPointer {
    const box = root.value!.getBoundingClientRect()
    const sx = event.clientX - box.left
    const sy = event.clientY - box.top
    const x = toLevelX(view, sx)
    const y = toLevelY(view, sy)
    snap.value = undefined
    let at = place(x, y, { free: event.altKey })
    if (tool.value.snapsTo === 'shapes' && !event.altKey) {
      const found = snapPlace(levels.doc, x, y, SNAP_PX / view.scale)
      if (found.to === 'corner' || found.to === 'edge') {
        snap.value = found
        at = place(found.at[0], found.at[1], { free: true })
      }
    }
    return { sx, sy, x, y, at, shift: event.shiftKey, alt: event.altKey, ctrl: event.ctrlKey || event.metaKey }
  }

  const keys = keyPointer({
    tool: () => tool.value,
    at(x, y, { shiftKey, altKey }) {
      const box = root.value!.getBoundingClientRect()
      const where = { clientX: box.left + x, clientY: box.top + y }
      return pointerOf({ ...where, shiftKey, altKey, ctrlKey: false, metaKey: false } as MouseEvent)
    },
    window: () => ({ width: view.width, height: view.height, step: levels.doc.settings.gridM * view.scale }),
    moved(p) {
      sheet.crosshair = p.at
      sheet.pointer = { x: p.x, y: p.y, z: p.at[2] }
    },
  })

  return { context, tools, tool, taker, snap, pointerOf, keys }
}
