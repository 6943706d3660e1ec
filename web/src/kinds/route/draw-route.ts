import { distance2, spaced, type Point3 } from '@tidytrail/core/geometry'
import {
  addRoute,
  addStop,
  freshName,
  joinRoutes,
  removeStops,
  removeThings,
  type EditResult,
  type Level,
} from '@tidytrail/core/level'
import { fewest, profilesOfRoute } from '@tidytrail/core/network'
import type { Hit } from '../../map/hit'
import { label, traceLine, X, Y } from '../../map/pen'
import { toScreenX, toScreenY } from '../../map/viewport'
import { randomId } from '../../stores/random-id'
import { metres } from '../../ui/figures'
import type { LegAnswer } from '../../workers/surveyor.protocol'
import { drawing, KIND_WORDS } from './draw-options'
import { middleBetween } from '../../tools/snapping'
import type { MakeTool, MapPointer } from '../../tools/tool'
import DrawOptions from './DrawOptions.vue'

/** The pointer has to go this far for a drag to be a stroke, pixels. */
const STROKE_PX = 8
/** Edges farther apart than this have no middle to walk in, metres. */
const MIDDLE_WITHIN_M = 20
/** Two places nearer than this are one, metres. */
const SAME_M = 0.01
/** A stroke gives at most so many stops. */
const MOST_STOPS = 2000

/** Where a stop is to go: at a place, at a waypoint there is, or at a marker. */
interface Target {
  readonly at: Point3
  readonly waypointId?: string
  readonly markerId?: string
}

/** Draws a route of any kind stop by stop, or by strokes, with the next leg shown before it is placed. */
export const drawRouteTool: MakeTool = (ctx) => {
  let routeId: string | undefined
  /** Which end is drawn on from. */
  let end: 'last' | 'first' = 'last'
  let over: Point3 | undefined
  let preview: LegAnswer | undefined
  let asked = 0
  let began: MapPointer | undefined
  let stroke: Point3[] = []

  const route = () => (routeId ? ctx.levels.doc.routes[routeId] : undefined)
  const endStop = (which = end) => {
    const r = route()
    return r && (which === 'last' ? r.order.at(-1) : r.order[0])
  }
  const lastPlace = (): Point3 | undefined => {
    const stop = endStop()
    return stop ? ctx.levels.doc.waypoints[route()!.stops[stop].waypointId].at : undefined
  }

  /** The pointer's place: on the floor nearest to the last stop, and with Shift at a multiple of 45° from it. */
  function placeOf(p: MapPointer): Point3 {
    const last = lastPlace()
    const nearZ = last?.[2]
    if (drawing.middle && !p.alt) {
      const middle = middleBetween(ctx.levels.doc, p.x, p.y, MIDDLE_WITHIN_M)
      if (middle) return ctx.place(middle[0], middle[1], { free: true, nearZ })
    }
    if (!last) return p.at
    if (!p.shift) return ctx.place(p.x, p.y, { free: p.alt, nearZ })
    const angle = (Math.round(Math.atan2(p.y - last[1], p.x - last[0]) / (Math.PI / 4)) * Math.PI) / 4
    const length = (p.x - last[0]) * Math.cos(angle) + (p.y - last[1]) * Math.sin(angle)
    return ctx.place(last[0] + Math.cos(angle) * length, last[1] + Math.sin(angle) * length, { free: true, nearZ })
  }

  async function ask(to: Point3): Promise<void> {
    const from = lastPlace()
    const r = route()
    if (!from || !routeId || !r) return
    const mine = ++asked
    const profile = profilesOfRoute(ctx.levels.doc, routeId)[0]
    const answer = await (end === 'last'
      ? ctx.survey.path(from, to, profile, r.legs)
      : ctx.survey.path(to, from, profile, r.legs))
    if (mine !== asked) return
    preview = answer
    ctx.redraw()
  }

  /** Takes up the route it was asked to go on with, and lets go of one that undo has taken away. */
  function catchUp(): void {
    const wanted = ctx.sheet.goOnWith
    ctx.sheet.goOnWith = undefined
    if (wanted && ctx.levels.doc.routes[wanted.routeId]) {
      routeId = wanted.routeId
      end = wanted.from
    }
    if (routeId && !route()) forget()
  }

  function forget(): void {
    routeId = undefined
    end = 'last'
    preview = undefined
    asked++
  }

  function finish(): void {
    const r = route()
    const id = routeId
    forget()
    if (r && id) {
      if (r.order.length < 2) {
        // Begun just now it never was; otherwise it is taken out as anything is.
        if (!ctx.levels.takeBackIf(`Start ${r.name}`)) ctx.levels.perform(removeThings, { ids: [id] })
        ctx.sheet.choose([])
        ctx.sheet.hint = 'A route needs at least two stops; nothing was kept.'
      } else ctx.sheet.choose([id])
    }
  }

  /** Adds stops at the end that is drawn on, beginning a route when there is none. */
  function add(targets: readonly Target[]): void {
    const fresh = !route()
    const id = routeId ?? randomId('routes')
    const name = fresh ? freshName(ctx.levels.doc.routes, KIND_WORDS[drawing.kind]) : ''
    const index = end === 'first' && !fresh ? 0 : undefined
    const edits = targets.flatMap(({ at, waypointId, markerId }) => {
      const made = waypointId ?? randomId('waypoints')
      const args = {
        routeId: id,
        stopId: randomId('stops'),
        waypointId: made,
        at: waypointId ? undefined : at,
        markerId,
        index,
      }
      return [(level: Level): EditResult => addStop.apply(level, args)]
    })
    if (fresh) edits.unshift((level) => addRoute.apply(level, { id, name, kind: drawing.kind }))
    const word = fresh
      ? `Start ${name}`
      : targets.length === 1
        ? `Add a stop to ${route()!.name}`
        : `Add ${targets.length} stops to ${route()!.name}`
    ctx.levels.together(word, edits)
    routeId = id
    if (fresh) ctx.sheet.choose([id])
    preview = undefined
    ctx.redraw()
  }

  function takeStroke(): void {
    const line = drawing.drag === 'freehand' ? fewest(stroke, drawing.toleranceM) : spaced(stroke, drawing.spacingM)
    stroke = []
    if (line.length > MOST_STOPS) {
      ctx.sheet.hint = `That would be ${line.length} stops; at most ${MOST_STOPS} are drawn at once. Draw a wider spacing or tolerance.`
      return
    }
    let z = lastPlace()?.[2]
    const placed = line.map(([x, y]) => {
      const at = ctx.place(x, y, { free: true, nearZ: z })
      z = at[2]
      return { at }
    })
    // What went beyond the edge is drawn in to it, and may end where it was.
    add(placed.filter(({ at }, k) => k === 0 || distance2(at, placed[k - 1].at) > SAME_M))
  }

  /** What is under the pointer, or under the place on the edge of the level it is drawn in to. */
  function hitOf(p: MapPointer): Hit | undefined {
    const kinds = ['stop', 'waypoints', 'markers'] as const
    const found = ctx.hit(p, kinds)
    if (found) return found
    const [x, y] = placeOf(p)
    const { extent } = ctx.levels.doc.settings
    if (p.x >= extent.minX && p.x <= extent.maxX && p.y >= extent.minY && p.y <= extent.maxY) return undefined
    return ctx.hit({ sx: toScreenX(ctx.view, x), sy: toScreenY(ctx.view, y) }, kinds)
  }

  function targetOf(p: MapPointer, hit: Hit | undefined): Target {
    if (hit?.kind === 'stop') return { at: ctx.levels.doc.waypoints[hit.waypointId].at, waypointId: hit.waypointId }
    if (hit?.kind === 'thing' && hit.in === 'waypoints')
      return { at: ctx.levels.doc.waypoints[hit.id].at, waypointId: hit.id }
    if (hit?.kind === 'thing' && hit.in === 'markers')
      return { at: ctx.levels.doc.markers[hit.id].at, markerId: hit.id }
    return { at: placeOf(p) }
  }

  return {
    id: 'draw',
    options: DrawOptions,
    label: 'Draw',
    key: 'd',
    stages: ['routes'],
    hint: 'Click to place stops, or drag a stroke. A click on the first closes it; Enter ends it and lets the next begin, Backspace takes the last back.',
    cursor: 'crosshair',
    down(p) {
      catchUp()
      began = p
      stroke = []
      return true
    },
    move(p, dragging) {
      catchUp()
      if (dragging && began) {
        if (stroke.length > 0 || Math.hypot(p.sx - began.sx, p.sy - began.sy) > STROKE_PX) {
          if (stroke.length === 0) stroke.push([began.x, began.y, 0])
          stroke.push([p.x, p.y, 0])
          preview = undefined
          ctx.redraw()
        }
        return
      }
      over = placeOf(p)
      void ask(over)
      ctx.redraw()
    },
    up(p) {
      catchUp()
      began = undefined
      if (stroke.length > 1) return takeStroke()
      const hit = hitOf(p)
      const r = route()
      if (!r && !p.shift && hit?.kind === 'stop') {
        // An end of the chosen route is drawn on (not with Shift); any other waypoint is shared by the new one.
        const own = ctx.levels.doc.routes[hit.routeId]
        const atEnd = hit.id === own.order.at(-1) ? 'last' : hit.id === own.order[0] ? 'first' : undefined
        if (
          ctx.sheet.selected.includes(hit.routeId) &&
          atEnd &&
          own.travel !== 'round' &&
          !own.locked &&
          own.kind !== 'network'
        ) {
          routeId = hit.routeId
          end = atEnd
          ctx.redraw()
          return
        }
      }
      if (
        r &&
        routeId &&
        hit?.kind === 'stop' &&
        hit.id === endStop(end === 'last' ? 'first' : 'last') &&
        r.order.length > 2
      ) {
        ctx.levels.perform(joinRoutes, { routeId, otherId: routeId })
        return finish()
      }
      const target = targetOf(p, hit)
      const stop = endStop()
      if (r && stop && target.waypointId && r.stops[stop].waypointId === target.waypointId) return
      add([target])
    },
    doubleClick: () => finish(),
    press(key) {
      const r = route()
      if (!r || !routeId) return false
      if (key === 'Enter' || key === 'Escape') finish()
      else if (key === 'Backspace') {
        if (r.order.length <= 1) {
          ctx.levels.perform(removeThings, { ids: [routeId] })
          forget()
        } else ctx.levels.perform(removeStops, { routeId, stopIds: [endStop()!] })
        preview = undefined
      } else return false
      ctx.redraw()
      return true
    },
    draw(pen) {
      const { c, inks } = pen
      c.lineCap = 'round'
      if (stroke.length > 1) {
        const kept = drawing.drag === 'freehand' ? fewest(stroke, drawing.toleranceM) : spaced(stroke, drawing.spacingM)
        c.strokeStyle = inks.colour.rust
        c.lineWidth = 2
        c.beginPath()
        traceLine(pen, stroke)
        c.stroke()
        for (const p of kept.slice(0, MOST_STOPS)) {
          c.beginPath()
          c.arc(X(pen, p[0]), Y(pen, p[1]), 4, 0, 7)
          c.fillStyle = inks.colour.sheet
          c.fill()
          c.stroke()
        }
        label(pen, `${kept.length} stops`, X(pen, stroke.at(-1)![0]), Y(pen, stroke.at(-1)![1]) - 20, { bold: true })
        return
      }
      const from = lastPlace()
      if (!over) return
      if (!from) {
        c.strokeStyle = inks.colour.rust
        c.lineWidth = 2
        c.beginPath()
        c.arc(X(pen, over[0]), Y(pen, over[1]), 5, 0, 7)
        c.stroke()
        return
      }
      const answer = preview
      const line = answer?.path.found ? answer.path.line : [from, over]
      c.strokeStyle = answer && !answer.path.found ? inks.colour.alarm : inks.colour.rust
      c.lineWidth = 2.5
      c.setLineDash(answer && !answer.path.found ? [0.5, 6] : [3, 6])
      c.beginPath()
      traceLine(pen, line)
      c.stroke()
      c.setLineDash([])
      c.beginPath()
      c.arc(X(pen, over[0]), Y(pen, over[1]), 6, 0, 7)
      c.stroke()
      if (!answer) return
      if (!answer.path.found && answer.path.stopsAt) {
        const x = X(pen, answer.path.stopsAt[0])
        const y = Y(pen, answer.path.stopsAt[1])
        c.beginPath()
        c.moveTo(x - 5, y - 5)
        c.lineTo(x + 5, y + 5)
        c.moveTo(x - 5, y + 5)
        c.lineTo(x + 5, y - 5)
        c.stroke()
      }
      const text = answer.path.found
        ? `${metres(answer.path.lengthM)}, climbs ${metres(answer.climbM)}, can be walked`
        : `cannot be walked: ${answer.why ?? 'no way'}`
      label(pen, text, X(pen, over[0]), Y(pen, over[1]) - 22, { bold: true })
    },
    leave() {
      const r = route()
      if (r && routeId && r.order.length < 2) ctx.levels.perform(removeThings, { ids: [routeId] })
      forget()
      over = began = undefined
      stroke = []
    },
  }
}
