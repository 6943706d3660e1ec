import { toMillimetre } from '@tidytrail/core/geometry'
import {
  addStop,
  addThing,
  changeThings,
  movedThing,
  movePlaces,
  passageSchema,
  setThings,
  shift,
  standsAlone,
  type Collection,
  type Solid,
} from '@tidytrail/core/level'
import { movable } from '../sheet/choice'
import type { Hit } from '../map/hit'
import { toScreenX, toScreenY } from '../map/viewport'
import { randomId } from '../stores/random-id'
import { STAGES } from '../stores/sheet'
import { Gathering, thingsWithin } from './gather'
import { passageOf } from '../kinds/passage/suggestion'
import { dragHandle, handlesOf, TURN_HANDLE, turns } from '../kinds/solid/handles'
import type { MakeTool, MapPointer } from './tool'

type Whole = { in: Collection; id: string; thing: object }
type Drag =
  | { kind: 'place'; ids: readonly string[]; from: Record<string, readonly number[]> }
  | { kind: 'things'; of: readonly Whole[] }
  | { kind: 'handle'; id: string; from: Solid; handle: number }
  | { kind: 'corner'; in: 'covers' | 'reachAreas'; id: string; ring: readonly [number, number][]; corner: number }
  | { kind: 'end'; id: string; end: 'from' | 'to' }
  | { kind: 'gather'; gathering: Gathering }

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

  const near = (p: MapPointer, at: readonly number[]) =>
    Math.hypot(toScreenX(ctx.view, at[0]) - p.sx, toScreenY(ctx.view, at[1]) - p.sy) < HANDLE_PX

  /** The handle of the one chosen thing under the pointer. */
  function handleAt(p: MapPointer): Drag | undefined {
    const id = ctx.sheet.selected.length === 1 ? ctx.sheet.chosen : undefined
    if (!id) return undefined
    const level = ctx.levels.doc
    const solid = level.solids[id]
    if (solid && !solid.locked) {
      const handle = handlesOf(solid).findIndex((at) => near(p, at))
      if (handle >= 0) return { kind: 'handle', id, from: solid, handle }
    }
    for (const collection of ['covers', 'reachAreas'] as const) {
      const thing = level[collection][id]
      if (!thing || thing.locked) continue
      const corner = thing.ring.findIndex((at) => near(p, at))
      if (corner >= 0) return { kind: 'corner', in: collection, id, ring: thing.ring, corner }
    }
    return undefined
  }

  function chosenPlaces(first: Hit): Record<string, readonly number[]> {
    const level = ctx.levels.doc
    const from: Record<string, readonly number[]> = {}
    const ids = ctx.sheet.selected.includes(first.id) ? ctx.sheet.selected : [first.id]
    for (const id of ids) {
      const place = level.spawners[id] ?? level.posts[id] ?? level.markers[id]
      if (place && !place.locked) from[id] = place.at
      if (level.waypoints[id]) from[id] = level.waypoints[id].at
      for (const route of Object.values(level.routes)) {
        const stop = route.stops[id]
        if (stop && !route.locked) from[stop.waypointId] = level.waypoints[stop.waypointId].at
      }
    }
    return from
  }

  /** The places at both ends of a leg or link; of all of a route's when it is to be dragged whole. */
  function placesOfLine(line: Hit, whole: boolean): Record<string, readonly number[]> {
    const level = ctx.levels.doc
    const from: Record<string, readonly number[]> = {}
    const take = (id: string) => (from[id] = level.waypoints[id].at)
    if (line.kind === 'link') {
      const { fromId, toId } = level.links[line.id]
      take(fromId)
      take(toId)
    } else if (line.kind === 'leg' && !level.routes[line.id].locked) {
      const route = level.routes[line.id]
      const at = (k: number) => route.stops[route.order[k % route.order.length]].waypointId
      if (whole) route.order.forEach((_, k) => take(at(k)))
      else [line.leg, line.leg + 1].forEach((k) => take(at(k)))
    }
    return from
  }

  /** The chosen things that stand on the map by themselves, with the one that was hit. */
  function chosenThings(first: string): Whole[] {
    const ids = ctx.sheet.selected.includes(first) ? ctx.sheet.selected : [first]
    return movable(ctx.levels.doc, ids).filter((t) => standsAlone(t.in))
  }

  const stopsOf = (routeId: string) => ctx.levels.doc.routes[routeId]?.order ?? []

  const snapped = (v: number, free: boolean) => {
    const { snap, gridM } = ctx.levels.doc.settings
    return free || !snap ? v : Math.round(v / gridM) * gridM
  }

  return {
    id: 'choose',
    label: 'Choose',
    key: 'c',
    stages: STAGES,
    hint: 'Click chooses, dragging moves. Shift adds and draws a box, Alt draws a loop and moves without snapping.',
    cursor: 'default',

    down(p) {
      start = p
      moved = false
      gesture = `drag-${Date.now()}`
      hit = undefined
      drag = handleAt(p)
      if (drag) return true
      hit = ctx.hit(p)
      if (!hit) {
        if (p.shift || p.alt) drag = { kind: 'gather', gathering: new Gathering(p.alt ? 'loop' : 'box', p) }
        return drag !== undefined
      }
      const held = ctx.sheet.selected.includes(hit.id) || stopsOf(hit.id).some((s) => ctx.sheet.selected.includes(s))
      if ((hit.kind === 'leg' || hit.kind === 'link') && held) {
        const from = placesOfLine(hit, p.ctrl)
        drag = { kind: 'place', ids: Object.keys(from), from }
        return true
      }
      if (hit.kind === 'stop' || hit.kind === 'spawner' || hit.kind === 'place' || hit.kind === 'waypoint') {
        const from = chosenPlaces(hit)
        drag = { kind: 'place', ids: Object.keys(from), from }
        return true
      }
      if (hit.kind === 'passage' && hit.end) {
        drag = { kind: 'end', id: hit.id, end: hit.end }
        return true
      }
      const flat = ['solid', 'mesh', 'cover', 'area', 'underlay'].includes(hit.kind)
      if (flat && (ctx.sheet.stage === 'ground' || ctx.sheet.selected.includes(hit.id))) {
        drag = { kind: 'things', of: chosenThings(hit.id) }
        return true
      }
      return hit.kind === 'passage' || hit.kind === 'suggestion'
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
      if (drag?.kind === 'gather') {
        drag.gathering.move(p)
        ctx.redraw()
      } else if (drag?.kind === 'place') {
        const places: Record<string, readonly number[]> = {}
        const single = drag.ids.length === 1
        for (const id of drag.ids) {
          const [x, y, z] = drag.from[id]
          const free = single ? p.alt : true
          places[id] = ctx.place(x + p.x - start.x, y + p.y - start.y, { free, nearZ: z })
        }
        ctx.levels.perform(movePlaces, { places }, gesture)
        const { extent } = ctx.levels.doc.settings
        const out = p.x < extent.minX || p.x > extent.maxX || p.y < extent.minY || p.y > extent.maxY
        ctx.sheet.hint = out ? 'The level ends here; give it more room under Level to go on.' : ''
      } else if (drag?.kind === 'things') {
        const motion = shift(snapped(p.x - start.x, p.alt), snapped(p.y - start.y, p.alt))
        const things = drag.of.map((t) => ({ in: t.in, id: t.id, set: movedThing(t.in, t.thing, motion)! }))
        ctx.levels.perform(setThings, { things }, gesture)
      } else if (drag?.kind === 'handle') {
        const turning = turns(drag.from) && drag.handle === TURN_HANDLE
        const place: [number, number] = turning ? [p.x, p.y] : [p.at[0], p.at[1]]
        const set = dragHandle(drag.from, drag.handle, place, p.shift)
        ctx.levels.perform(changeThings, { in: 'solids', changes: { [drag.id]: set } }, gesture)
      } else if (drag?.kind === 'corner') {
        const ring = drag.ring.map((q): [number, number] => [q[0], q[1]])
        ring[drag.corner] = [toMillimetre(p.at[0]), toMillimetre(p.at[1])]
        ctx.levels.perform(setThings, { things: [{ in: drag.in, id: drag.id, set: { ring } }] }, gesture)
      } else if (drag?.kind === 'end') {
        const at = ctx.place(p.x, p.y, { free: true, nearZ: ctx.levels.doc.passages[drag.id][drag.end][2] })
        const set = { [drag.end]: [...at] }
        ctx.levels.perform(setThings, { things: [{ in: 'passages', id: drag.id, set }] }, gesture)
      }
    },

    up(p) {
      ctx.levels.release()
      if (drag?.kind === 'gather' && moved) {
        const { stage, shown } = ctx.sheet
        const found = thingsWithin(ctx.levels.doc, drag.gathering.ring(), {
          stage,
          routes: shown.routes,
          spawners: shown.spawners,
        })
        ctx.sheet.choose([...new Set([...ctx.sheet.selected, ...found])])
        if (found.length === 0) ctx.sheet.hint = 'Nothing that can be chosen lies within.'
      } else if (!moved && start) {
        if (drag?.kind === 'handle' || drag?.kind === 'corner') return
        if (!hit) {
          if (!p.shift) ctx.sheet.choose([])
        } else if (hit.kind === 'suggestion') {
          const id = randomId('passages')
          const thing = passageSchema.parse(passageOf(ctx.levels.doc, ctx.survey.suggestions[hit.index]))
          ctx.levels.perform(addThing, { in: 'passages', id, thing })
          ctx.survey.suggestions = ctx.survey.suggestions.filter((_, n) => n !== (hit as { index: number }).index)
          ctx.sheet.choose([id])
        } else if (hit.kind === 'finding') {
          ctx.sheet.choose([hit.id])
          ctx.sheet.drawerTab = 'findings'
          ctx.sheet.panels.drawer = true
        } else if (p.shift || p.ctrl) ctx.sheet.toggle(hit.id)
        else ctx.sheet.choose([hit.id])
      } else if (moved && hit && !ctx.sheet.selected.includes(hit.id) && hit.kind !== 'leg') ctx.sheet.choose([hit.id])
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

    draw(pen) {
      if (drag?.kind === 'gather' && moved) drag.gathering.draw(pen)
    },

    leave() {
      ctx.levels.release()
      start = drag = undefined
    },
  }
}
