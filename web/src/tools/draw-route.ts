import type { Point3 } from '@tidytrail/core/geometry'
import { addRoute, addStop, freshName, removeStops, removeThings, setTravel } from '@tidytrail/core/level'
import { profilesOfRoute } from '@tidytrail/core/network'
import { label, traceLine, X, Y } from '../map/pen'
import { randomId } from '../stores/random-id'
import { metres } from '../ui/figures'
import type { LegAnswer } from '../workers/surveyor.protocol'
import type { MakeTool, MapPointer } from './tool'

/** Draws a patrol stop by stop, with the next leg shown before it is placed. */
export const drawRouteTool: MakeTool = (ctx) => {
  let routeId: string | undefined
  let over: Point3 | undefined
  let preview: LegAnswer | undefined
  let asked = 0

  const route = () => (routeId ? ctx.levels.doc.routes[routeId] : undefined)
  const lastPlace = (): Point3 | undefined => {
    const r = route()
    const stop = r?.order.at(-1)
    return r && stop ? ctx.levels.doc.waypoints[r.stops[stop].waypointId].at : undefined
  }

  /** The pointer's place: on the floor nearest to the last stop, and with Shift at a multiple of 45° from it. */
  function placeOf(p: MapPointer): Point3 {
    const last = lastPlace()
    if (!last) return p.at
    if (!p.shift) return ctx.place(p.x, p.y, { free: p.alt, nearZ: last[2] })
    const angle = (Math.round(Math.atan2(p.y - last[1], p.x - last[0]) / (Math.PI / 4)) * Math.PI) / 4
    const length = (p.x - last[0]) * Math.cos(angle) + (p.y - last[1]) * Math.sin(angle)
    return ctx.place(last[0] + Math.cos(angle) * length, last[1] + Math.sin(angle) * length, {
      free: true,
      nearZ: last[2],
    })
  }

  async function ask(to: Point3): Promise<void> {
    const from = lastPlace()
    if (!from || !routeId) return
    const mine = ++asked
    const profile = profilesOfRoute(ctx.levels.doc, routeId)[0]
    const answer = await ctx.survey.path(from, to, profile)
    if (mine !== asked) return
    preview = answer
    ctx.redraw()
  }

  /** Takes up the route it was asked to go on with, and lets go of one that undo has taken away. */
  function catchUp(): void {
    const asked = ctx.sheet.goOnWith
    ctx.sheet.goOnWith = undefined
    if (asked && ctx.levels.doc.routes[asked]) routeId = asked
    if (routeId && !route()) forget()
  }

  function forget(): void {
    routeId = undefined
    preview = undefined
    asked++
  }

  function finish(): void {
    const r = route()
    const id = routeId
    forget()
    if (r && id) {
      if (r.order.length < 2) {
        ctx.levels.perform(removeThings, { ids: [id] })
        ctx.sheet.hint = 'A route needs at least two stops; nothing was kept.'
      } else ctx.sheet.choose([id])
    }
    ctx.done()
  }

  return {
    id: 'draw',
    label: 'Draw',
    key: 'd',
    stages: ['routes'],
    hint: 'Click to place stops; a click on the first one closes the round. Enter ends, Backspace takes the last back.',
    cursor: 'crosshair',
    down: () => true,
    up(p) {
      catchUp()
      const hit = ctx.hit(p, ['stop'])
      const r = route()
      if (r && routeId && hit?.kind === 'stop' && hit.id === r.order[0] && r.order.length > 2) {
        ctx.levels.perform(setTravel, { routeId, travel: 'round' })
        return finish()
      }
      const stopId = randomId('stops')
      const shared = hit?.kind === 'stop' ? hit.waypointId : undefined
      if (shared && r && r.order.length > 0 && r.stops[r.order.at(-1)!].waypointId === shared) return
      const waypointId = shared ?? randomId('waypoints')
      const at = shared ? undefined : placeOf(p)
      if (r && routeId) ctx.levels.perform(addStop, { routeId, stopId, waypointId, at })
      else {
        const id = randomId('routes')
        const name = freshName(ctx.levels.doc.routes, 'Patrol')
        ctx.levels.together(`Start ${name}`, [
          (level) => addRoute.apply(level, { id, name, kind: 'patrol' }),
          (level) => addStop.apply(level, { routeId: id, stopId, waypointId, at }),
        ])
        routeId = id
        ctx.sheet.choose([id])
      }
      preview = undefined
      ctx.redraw()
    },
    move(p) {
      catchUp()
      over = placeOf(p)
      void ask(over)
      ctx.redraw()
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
        } else ctx.levels.perform(removeStops, { routeId, stopIds: [r.order.at(-1)!] })
        preview = undefined
      } else return false
      ctx.redraw()
      return true
    },
    draw(pen) {
      const from = lastPlace()
      if (!from || !over) return
      const { c, inks } = pen
      const answer = preview
      const line = answer?.way.found ? answer.way.line : [from, over]
      c.lineCap = 'round'
      c.strokeStyle = answer && !answer.way.found ? inks.colour.alarm : inks.colour.rust
      c.lineWidth = 2.5
      c.setLineDash(answer && !answer.way.found ? [0.5, 6] : [3, 6])
      c.beginPath()
      traceLine(pen, line)
      c.stroke()
      c.setLineDash([])
      c.beginPath()
      c.arc(X(pen, over[0]), Y(pen, over[1]), 6, 0, 7)
      c.stroke()
      if (!answer) return
      if (!answer.way.found && answer.way.stopsAt) {
        const x = X(pen, answer.way.stopsAt[0])
        const y = Y(pen, answer.way.stopsAt[1])
        c.beginPath()
        c.moveTo(x - 5, y - 5)
        c.lineTo(x + 5, y + 5)
        c.moveTo(x - 5, y + 5)
        c.lineTo(x + 5, y - 5)
        c.stroke()
      }
      const text = answer.way.found
        ? `${metres(answer.way.lengthM)}, climbs ${metres(answer.climbM)}, can be walked`
        : `cannot be walked: ${answer.why ?? 'no way'}`
      label(pen, text, X(pen, over[0]), Y(pen, over[1]) - 22, { bold: true })
    },
    leave() {
      const r = route()
      if (r && routeId && r.order.length < 2) ctx.levels.perform(removeThings, { ids: [routeId] })
      forget()
      over = undefined
    },
  }
}
