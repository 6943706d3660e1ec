import { orderStops } from '@tidytrail/core/level'
import { label, X, Y } from '../../map/pen'
import type { MakeTool } from '../../tools/tool'

/** Puts the stops of a route into the order in which they are clicked: this one next. */
export const pickOrderTool: MakeTool = (ctx) => {
  let routeId: string | undefined
  let picked: string[] = []

  const route = () => (routeId ? ctx.levels.doc.routes[routeId] : undefined)
  function begin(): void {
    if (route()) return
    picked = []
    const { routes } = ctx.levels.doc
    routeId = ctx.sheet.selected
      .map((id) => (routes[id] ? id : Object.keys(routes).find((r) => routes[r].stops[id])))
      .find((id) => id && routes[id].kind !== 'network')
  }

  return {
    id: 'order',
    label: 'Order',
    key: 'n',
    stages: ['routes'],
    hint: 'Click the stops of a route in the order they are to be travelled; Backspace takes the last click back, Enter ends.',
    cursor: 'pointer',
    down: () => true,
    up(p) {
      begin()
      const hit = ctx.hit(p, ['stop'])
      if (hit?.kind !== 'stop') return
      if (!routeId) {
        routeId = hit.routeId
        ctx.sheet.choose([routeId])
      }
      const r = route()
      if (!r || !routeId) return
      if (r.locked) {
        ctx.sheet.hint = `${r.name} is locked; unlock it in the list first.`
        return
      }
      // Routes may share the waypoint that was hit; the stop of this one is meant, one not picked yet when there are two.
      const here = r.order.filter((s) => r.stops[s].waypointId === hit.waypointId)
      const stopId = here.find((s) => !picked.includes(s))
      if (!stopId) {
        ctx.sheet.hint = here.length === 0 ? `That stop is not one of ${r.name}.` : 'That stop has been picked already.'
        return
      }
      picked = [...picked.filter((s) => r.stops[s]), stopId]
      ctx.levels.perform(orderStops, { routeId, stopIds: picked })
      if (picked.length === r.order.length) {
        ctx.done()
        ctx.sheet.hint = 'All stops are in order.'
      }
      ctx.redraw()
    },
    press(key) {
      if (key === 'Enter' || key === 'Escape') {
        ctx.done()
        return true
      }
      if (key !== 'Backspace' || picked.length === 0) return false
      picked.pop()
      ctx.levels.undo()
      return true
    },
    draw(pen) {
      begin()
      const r = route()
      if (!r) return
      const next = picked.length + 1
      for (const stopId of r.order) {
        if (picked.includes(stopId)) continue
        const { at } = ctx.levels.doc.waypoints[r.stops[stopId].waypointId]
        label(pen, `${next}?`, X(pen, at[0]), Y(pen, at[1]) - 20, { size: 11 })
      }
    },
    leave() {
      routeId = undefined
      picked = []
    },
  }
}
