import { addStop, changeThings, movePlaces, type Solid } from '@tidytrail/core/level'
import type { Hit } from '../map/hit'
import { toScreenX, toScreenY } from '../map/viewport'
import { randomId } from '../stores/random-id'
import { STAGES } from '../stores/sheet'
import { dragHandle, handlesOf, movedBy } from './solid-handles'
import type { MakeTool, MapPointer } from './tool'

type Drag =
  | { kind: 'place'; ids: readonly string[]; from: Record<string, readonly number[]> }
  | { kind: 'solid'; id: string; from: Solid }
  | { kind: 'handle'; id: string; from: Solid; handle: number }

const HANDLE_PX = 9
/** The pointer has to go this far before something moves. */
const SLOP_PX = 3

/** Choose, move, resize: what the pointer does unless told otherwise. */
export const chooseTool: MakeTool = (ctx) => {
  let drag: Drag | undefined
  let start: MapPointer | undefined
  let moved = false
  let hit: Hit | undefined
  let gesture = ''

  const handleAt = (p: MapPointer): { id: string; handle: number } | undefined => {
    const id = ctx.sheet.chosen
    const solid = id ? ctx.levels.doc.solids[id] : undefined
    if (!id || !solid || solid.locked) return undefined
    const handle = handlesOf(solid).findIndex(
      ([x, y]) => Math.hypot(toScreenX(ctx.view, x) - p.sx, toScreenY(ctx.view, y) - p.sy) < HANDLE_PX,
    )
    return handle < 0 ? undefined : { id, handle }
  }

  function chosenPlaces(first: Hit): Record<string, readonly number[]> {
    const level = ctx.levels.doc
    const from: Record<string, readonly number[]> = {}
    const ids = ctx.sheet.selected.includes(first.id) ? ctx.sheet.selected : [first.id]
    for (const id of ids) {
      if (level.spawners[id]) from[id] = level.spawners[id].at
      for (const route of Object.values(level.routes)) {
        const stop = route.stops[id]
        if (stop && !route.locked) from[stop.waypointId] = level.waypoints[stop.waypointId].at
      }
    }
    return from
  }

  return {
    id: 'choose',
    label: 'Choose',
    key: 'c',
    stages: STAGES,
    hint: 'Click chooses, dragging moves. Shift adds to the choice, Alt moves without snapping.',
    cursor: 'default',

    down(p) {
      start = p
      moved = false
      drag = undefined
      gesture = `drag-${Date.now()}`
      const handle = handleAt(p)
      if (handle) {
        drag = { kind: 'handle', ...handle, from: ctx.levels.doc.solids[handle.id] }
        hit = undefined
        return true
      }
      hit = ctx.hit(p)
      if (!hit) return false
      if (hit.kind === 'stop' || hit.kind === 'spawner') {
        const from = chosenPlaces(hit)
        drag = { kind: 'place', ids: Object.keys(from), from }
        return true
      }
      if (hit.kind === 'solid' && (ctx.sheet.stage === 'ground' || ctx.sheet.selected.includes(hit.id))) {
        drag = { kind: 'solid', id: hit.id, from: ctx.levels.doc.solids[hit.id] }
        return true
      }
      return false
    },

    move(p, dragging) {
      if (!dragging || !start) {
        const under = ctx.hit(p)
        const id = under?.kind === 'stop' ? under.routeId : under?.id
        if (ctx.sheet.hovered !== id) {
          ctx.sheet.hovered = id
          ctx.redraw()
        }
        return
      }
      if (!moved && Math.hypot(p.sx - start.sx, p.sy - start.sy) < SLOP_PX) return
      moved = true
      if (drag?.kind === 'place') {
        const places: Record<string, readonly number[]> = {}
        const single = drag.ids.length === 1
        for (const id of drag.ids) {
          const [x, y, z] = drag.from[id]
          places[id] = single
            ? ctx.place(x + p.x - start.x, y + p.y - start.y, { free: p.alt, nearZ: z })
            : ctx.place(x + p.x - start.x, y + p.y - start.y, { free: true, nearZ: z })
        }
        ctx.levels.perform(movePlaces, { places }, gesture)
      } else if (drag?.kind === 'solid') {
        const snap = (v: number) =>
          p.alt || !ctx.levels.doc.settings.snap
            ? v
            : Math.round(v / ctx.levels.doc.settings.gridM) * ctx.levels.doc.settings.gridM
        const set = movedBy(drag.from, snap(p.x - start.x), snap(p.y - start.y))
        ctx.levels.perform(changeThings, { in: 'solids', changes: { [drag.id]: set } }, gesture)
      } else if (drag?.kind === 'handle') {
        const turning = drag.from.shape !== 'prism' && drag.handle === 4
        const place: [number, number] = turning ? [p.x, p.y] : [p.at[0], p.at[1]]
        const set = dragHandle(drag.from, drag.handle, place, p.shift)
        ctx.levels.perform(changeThings, { in: 'solids', changes: { [drag.id]: set } }, gesture)
      }
    },

    up(p) {
      ctx.levels.release()
      if (!moved && start) {
        if (drag?.kind === 'handle') return
        if (!hit) {
          if (!p.shift) ctx.sheet.choose([])
        } else if (hit.kind === 'finding') {
          ctx.sheet.choose([hit.id])
          ctx.sheet.drawerTab = 'findings'
          ctx.sheet.panels.drawer = true
        } else if (p.shift || p.ctrl) ctx.sheet.toggle(hit.id)
        else ctx.sheet.choose([hit.id])
      } else if (moved && hit && !ctx.sheet.selected.includes(hit.id)) ctx.sheet.choose([hit.id])
      start = undefined
      drag = undefined
      ctx.redraw()
    },

    doubleClick(p) {
      const under = ctx.hit(p, ['stop', 'leg'])
      if (under?.kind !== 'leg' || ctx.levels.doc.routes[under.id].locked) return
      const stopId = randomId('stops')
      ctx.levels.perform(addStop, {
        routeId: under.id,
        stopId,
        waypointId: randomId('waypoints'),
        at: p.at,
        index: under.leg + 1,
      })
      ctx.sheet.choose([stopId])
    },

    leave() {
      ctx.levels.release()
      start = drag = undefined
    },
  }
}
