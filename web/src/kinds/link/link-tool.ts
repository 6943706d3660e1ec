import type { Point3 } from '@tidytrail/core/geometry'
import { addLinks, addNetworkNodes, addRoute, freshName, type EditResult, type Level } from '@tidytrail/core/level'
import { profilesOfRoute } from '@tidytrail/core/network'
import { label, X, Y } from '../../map/pen'
import { randomId } from '../../stores/random-id'
import { metres } from '../../ui/figures'
import type { LegAnswer } from '../../workers/surveyor.protocol'
import { linking } from '../route/draw-options'
import type { MakeTool, MapPointer } from '../../tools/tool'
import LinkOptions from './LinkOptions.vue'

/**
 * Lays networks: a click on the ground makes a node, and each node is linked to the one before. Between waypoints of
 * routes it makes links that belong to no network, such as the forks of lanes.
 */
export const linkTool: MakeTool = (ctx) => {
  let from: string | undefined
  let over: { at: Point3; waypointId?: string } | undefined
  let preview: LegAnswer | undefined
  let asked = 0

  const waypoint = (id: string | undefined) => (id ? ctx.levels.doc.waypoints[id] : undefined)
  /** The network that is drawn in: the chosen one, or that of the node linked from. */
  function network(): string | undefined {
    const { routes } = ctx.levels.doc
    const chosen = ctx.sheet.selected.find((id) => routes[id]?.kind === 'network')
    if (chosen) return chosen
    const own = (id: string) => Object.keys(routes).find((r) => routes[r].kind === 'network' && routes[r].stops[id])
    const ofStop = ctx.sheet.selected.map(own).find(Boolean)
    if (ofStop) return ofStop
    return from === undefined
      ? undefined
      : Object.keys(routes).find(
          (r) => routes[r].kind === 'network' && Object.values(routes[r].stops).some((s) => s.waypointId === from),
        )
  }

  /** Does a new link lead back, too? Who drives a lane or a circuit leaves it forwards. */
  function leadsBack(...ends: string[]): boolean {
    if (linking.ways !== 'fitting') return linking.ways === 'both'
    return !Object.values(ctx.levels.doc.routes).some(
      (r) =>
        (r.kind === 'lane' || r.kind === 'circuit') && Object.values(r.stops).some((s) => ends.includes(s.waypointId)),
    )
  }

  function targetOf(p: MapPointer) {
    const hit = ctx.hit(p, ['stop', 'waypoints', 'markers'])
    if (hit?.kind === 'stop')
      return { waypointId: hit.waypointId, at: ctx.levels.doc.waypoints[hit.waypointId].at as Point3 }
    if (hit?.kind === 'thing' && hit.in === 'waypoints')
      return { waypointId: hit.id, at: ctx.levels.doc.waypoints[hit.id].at as Point3 }
    if (hit?.kind === 'thing' && hit.in === 'markers')
      return { at: ctx.levels.doc.markers[hit.id].at as Point3, markerId: hit.id }
    return { at: ctx.place(p.x, p.y, { free: p.alt, nearZ: waypoint(from)?.at[2] }) }
  }

  async function ask(): Promise<void> {
    const start = waypoint(from)
    if (!start || !over) return
    const mine = ++asked
    const routeId = network()
    const profile = routeId ? profilesOfRoute(ctx.levels.doc, routeId)[0] : undefined
    const answer = await ctx.survey.path(start.at, over.at, profile, 'drawn')
    if (mine !== asked) return
    preview = answer
    ctx.redraw()
  }

  function letGo(): void {
    from = undefined
    preview = undefined
    asked++
    ctx.redraw()
  }

  return {
    id: 'link',
    options: LinkOptions,
    label: 'Link',
    key: 'l',
    stages: ['routes'],
    hint: 'Click to lay nodes, each linked to the last; click a waypoint to link to it. Shift begins anew, Enter ends.',
    cursor: 'crosshair',
    down: () => true,
    move(p) {
      if (from && !waypoint(from)) letGo()
      over = targetOf(p)
      void ask()
      ctx.redraw()
    },
    up(p) {
      if (from && !waypoint(from)) letGo()
      const target = targetOf(p)
      if (target.waypointId && target.waypointId === from) {
        ctx.sheet.hint = 'A link needs two different waypoints.'
        return
      }
      const { doc } = ctx.levels
      const inNetwork = (id: string) =>
        Object.values(doc.routes).some(
          (r) => r.kind === 'network' && Object.values(r.stops).some((s) => s.waypointId === id),
        )
      let routeId = network()
      const free =
        !routeId && target.waypointId !== undefined && !inNetwork(target.waypointId) && (!from || !inNetwork(from))
      if (!routeId && !free && from && target.waypointId === undefined) {
        ctx.sheet.hint =
          'Click another waypoint to link to; to lay a network choose one in the list or begin on bare ground.'
        return
      }
      if (routeId && doc.routes[routeId].locked) {
        ctx.sheet.hint = `${doc.routes[routeId].name} is locked; unlock it in the list first.`
        return
      }
      const edits: ((level: Level) => EditResult)[] = []
      const name = freshName(doc.routes, 'Network')
      if (!routeId && !free) {
        routeId = randomId('routes')
        const id = routeId
        edits.push((level) => addRoute.apply(level, { id, name, kind: 'network' }))
      }
      const waypointId = target.waypointId ?? randomId('waypoints')
      if (routeId) {
        const id = routeId
        const known = Object.values(doc.routes[id]?.stops ?? {}).some((s) => s.waypointId === waypointId)
        const node = {
          stopId: randomId('stops'),
          waypointId,
          at: target.waypointId ? undefined : target.at,
          markerId: 'markerId' in target ? target.markerId : undefined,
        }
        if (!known) edits.push((level) => addNetworkNodes.apply(level, { routeId: id, nodes: [node] }))
      }
      if (from && !p.shift) {
        const link = { id: randomId('links'), fromId: from, toId: waypointId, twoWay: leadsBack(from, waypointId) }
        const stopIds = routeId ? { [from]: randomId('stops') } : undefined
        edits.push((level) => addLinks.apply(level, { links: [link], routeId, stopIds }))
      }
      if (edits.length > 0) ctx.levels.together(from && !p.shift ? 'Add a link' : 'Add a node', edits)
      // At a fork several links leave the same waypoint; in a network each node is linked to the last.
      if (!(free && from)) from = waypointId
      if (routeId) ctx.sheet.choose([routeId])
      preview = undefined
      ctx.redraw()
    },
    doubleClick: () => letGo(),
    press(key) {
      if (key === 'Enter' || (key === 'Escape' && !from)) {
        letGo()
        ctx.done()
        return true
      }
      if (key !== 'Escape') return false
      letGo()
      return true
    },
    draw(pen) {
      const start = waypoint(from)
      const { c, inks } = pen
      const barred = preview && !preview.path.found
      c.strokeStyle = barred ? inks.colour.alarm : inks.colour.pine
      c.lineWidth = 2
      if (start) {
        c.beginPath()
        c.arc(X(pen, start.at[0]), Y(pen, start.at[1]), 11, 0, 7)
        c.stroke()
      }
      if (!over) return
      const x = X(pen, over.at[0])
      const y = Y(pen, over.at[1])
      if (start) {
        c.setLineDash(barred ? [0.5, 6] : [3, 5])
        c.beginPath()
        c.moveTo(X(pen, start.at[0]), Y(pen, start.at[1]))
        c.lineTo(x, y)
        c.stroke()
        c.setLineDash([])
        const m = Math.hypot(over.at[0] - start.at[0], over.at[1] - start.at[1])
        label(pen, barred ? `${metres(m)}, nothing leads straight there` : metres(m), x, y - 20, { bold: true })
      }
      c.beginPath()
      c.moveTo(x, y - 7)
      c.lineTo(x + 7, y)
      c.lineTo(x, y + 7)
      c.lineTo(x - 7, y)
      c.closePath()
      c.stroke()
    },
    leave() {
      from = undefined
      over = undefined
      preview = undefined
      asked++
    },
  }
}
