import { standsOnFloor } from '@tidytrail/core/ground'
import {
  addStop,
  addThing,
  movable,
  movedThing,
  passageSchema,
  setThings,
  shift,
  placeKey,
  thingOf,
  type Collection,
} from '@tidytrail/core/level'
import { handlesFor, marqueeSelect } from '../../kinds'
import { passageOf } from '../../kinds/passage/suggestion'
import type { Hit } from '../../map/hit'
import { toScreenX, toScreenY } from '../../map/viewport'
import { randomId } from '../../stores/random-id'
import { STAGES } from '../../stores/sheet'
import { Marquee } from '../../tools/marquee'
import type { MakeTool, MapPointer } from '../../tools/tool'

type Whole = { in: Collection; id: string; thing: object }
type Drag =
  /** Things that are moved, with how they were. */
  | { kind: 'things'; of: readonly Whole[] }
  /** A handle of a thing, which is as it was when it was taken hold of. */
  | { kind: 'handle'; in: Collection; id: string; thing: object; handle: number }
  | { kind: 'marquee'; marquee: Marquee }

/** Is a kind dragged by its handles alone, never whole? */
const byHandles = (collection: Collection) => handlesFor(collection)?.only === true

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
    const found = ctx.sheet.selected.length === 1 ? thingOf(ctx.levels.doc, ctx.sheet.selected[0]) : undefined
    const handles = found && !found.thing.locked ? handlesFor(found.in) : undefined
    if (!found || !handles) return undefined
    const handle = handles.at(found.thing as never, ctx.levels.doc).findIndex((at) => near(p, at))
    return handle < 0 ? undefined : { kind: 'handle', in: found.in, id: found.id, thing: found.thing, handle }
  }

  /** What moves when something that was hit is dragged: the choice when it is of it, otherwise it alone. */
  function carried(first: string): Whole[] {
    return movable(ctx.levels.doc, ctx.sheet.selected.includes(first) ? ctx.sheet.selected : [first])
  }

  /** The waypoints at both ends of a leg or link; all of a route's when it is to be dragged whole. */
  function endsOf(line: Hit, whole: boolean): string[] {
    const level = ctx.levels.doc
    if (line.kind === 'link') return [level.links[line.id].fromId, level.links[line.id].toId]
    if (line.kind !== 'leg' || level.routes[line.id].locked) return []
    const route = level.routes[line.id]
    const at = (k: number) => route.stops[route.order[k % route.order.length]].waypointId
    return whole ? route.order.map((_, k) => at(k)) : [at(line.leg), at(line.leg + 1)]
  }

  /** A thing after the drag so far: on the floor there where it stands on floors, otherwise simply moved. */
  function dragged(t: Whole, dx: number, dy: number, free: boolean, single: boolean): object {
    const key = standsOnFloor(t.in) ? placeKey(t.in) : undefined
    if (!key) return movedThing(t.in, t.thing, shift(snapped(dx, free), snapped(dy, free)))!
    const [x, y, z] = (t.thing as Record<string, readonly number[]>)[key]
    return { [key]: [...ctx.place(x + dx, y + dy, { free: single ? free : true, nearZ: z })] }
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

    grabs(p, kinds) {
      const [id, ...more] = ctx.sheet.selected
      const found = id && more.length === 0 ? thingOf(ctx.levels.doc, id) : undefined
      if (!found || !kinds.includes(found.in)) return false
      if (handleAt(p)) return true
      // What is flat has others within it: its corners alone are taken.
      const under = standsOnFloor(found.in) || found.in === 'solids' ? ctx.hit(p) : undefined
      return under?.kind === 'thing' && under.id === id
    },
    down(p) {
      start = p
      moved = false
      gesture = `drag-${Date.now()}`
      hit = undefined
      drag = handleAt(p)
      if (drag) return true
      hit = ctx.hit(p)
      if (!hit) {
        if (p.shift || p.alt) drag = { kind: 'marquee', marquee: new Marquee(p.alt ? 'loop' : 'box', p) }
        return drag !== undefined
      }
      const held = ctx.sheet.selected.includes(hit.id) || stopsOf(hit.id).some((s) => ctx.sheet.selected.includes(s))
      if ((hit.kind === 'leg' || hit.kind === 'link') && held) {
        drag = { kind: 'things', of: movable(ctx.levels.doc, endsOf(hit, p.ctrl)) }
        return true
      }
      if (hit.kind === 'stop') {
        drag = { kind: 'things', of: carried(hit.id) }
        return true
      }
      if (hit.kind !== 'thing') return hit.kind === 'suggestion'
      if (hit.handle !== undefined) {
        drag = { kind: 'handle', in: hit.in, id: hit.id, thing: ctx.levels.doc[hit.in][hit.id], handle: hit.handle }
        return true
      }
      // What lies flat is taken hold of on its own stage; elsewhere only once it is chosen.
      const flat = !standsOnFloor(hit.in)
      if (flat && ctx.sheet.stage !== 'ground' && !ctx.sheet.selected.includes(hit.id)) return byHandles(hit.in)
      if (!byHandles(hit.in)) drag = { kind: 'things', of: carried(hit.id) }
      return true
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
      if (drag?.kind === 'marquee') {
        drag.marquee.move(p)
        ctx.redraw()
      } else if (drag?.kind === 'things') {
        const { of } = drag
        const [dx, dy] = [p.x - start.x, p.y - start.y]
        const things = of.map((t) => ({ in: t.in, id: t.id, set: dragged(t, dx, dy, p.alt, of.length === 1) }))
        ctx.levels.perform(setThings, { things }, gesture)
        const { extent } = ctx.levels.doc.settings
        const out = p.x < extent.minX || p.x > extent.maxX || p.y < extent.minY || p.y > extent.maxY
        const stopped = out && of.some((t) => standsOnFloor(t.in))
        ctx.sheet.hint = stopped ? 'The level ends here; give it more room under Level to go on.' : ''
      } else if (drag?.kind === 'handle') {
        const set = handlesFor(drag.in)!.drag(drag.thing as never, drag.handle, p, ctx)
        const things = [{ in: drag.in, id: drag.id, set }]
        ctx.levels.perform(setThings, { things, word: 'Change' }, gesture)
      }
    },

    up(p) {
      ctx.levels.release()
      if (drag?.kind === 'marquee' && moved) {
        const { stage, isShown } = ctx.sheet
        const found = marqueeSelect(ctx.levels.doc, drag.marquee.ring(), stage, isShown)
        ctx.sheet.choose([...new Set([...ctx.sheet.selected, ...found])])
        if (found.length === 0) ctx.sheet.hint = 'Nothing that can be chosen lies within.'
      } else if (!moved && start) {
        if (drag?.kind === 'handle' && hit === undefined) return
        if (!hit) {
          if (!p.shift) ctx.sheet.choose([])
        } else if (hit.kind === 'suggestion') {
          const id = randomId('passages')
          const thing = passageSchema.parse(passageOf(ctx.levels.doc, ctx.survey.suggestions[hit.index]))
          ctx.levels.perform(addThing, { in: 'passages', id, thing })
          ctx.survey.suggestions = ctx.survey.suggestions.filter((_, n) => n !== (hit as { index: number }).index)
          ctx.sheet.choose([id])
        } else if (hit.kind === 'finding') {
          ctx.sheet.choose([...new Set(hit.findings.map((f) => f.subjects[0]))])
          ctx.sheet.openDrawer('findings')
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
      if (drag?.kind === 'marquee' && moved) drag.marquee.draw(pen)
    },

    leave() {
      ctx.levels.release()
      start = drag = undefined
    },
  }
}
