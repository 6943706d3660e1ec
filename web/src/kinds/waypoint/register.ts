import { setThings, type Route } from '@tidytrail/core/level'
import { computed } from 'vue'
import { requestZoom } from '../../map/zoom-wish'
import { useLevelStore } from '../../stores/level'
import { count } from '../../ui/figures'
import { circle } from '../../ui/stroke'
import { strokeSymbol } from '../plain-register'
import type { Register, RegisterRow } from '../register'
import { LINES } from '../route/lines'
import RouteFoot from '../route/RouteFoot.vue'

/** Waypoints by their first stop, those of no route by themselves. */
function rowsOf(levels: ReturnType<typeof useLevelStore>): RegisterRow[] {
  const { routes, waypoints } = levels.doc
  const uses = new Map<string, { stopId: string; index: number; route: Route; n: number }>()
  for (const route of Object.values(routes)) {
    route.order.forEach((stopId, index) => {
      const { waypointId } = route.stops[stopId]
      const known = uses.get(waypointId)
      if (known) known.n++
      else uses.set(waypointId, { stopId, index, route, n: 1 })
    })
  }
  return Object.entries(waypoints).map(([id, w]) => {
    const use = uses.get(id)
    const word = use?.route.kind === 'network' ? 'Node' : 'Stop'
    const where = `${w.at[0]}, ${w.at[1]}, ${w.at[2]} m`
    return {
      id: use?.stopId ?? id,
      name: w.name || (use ? `${word} ${use.index + 1} of ${use.route.name}` : 'Waypoint'),
      detail: use
        ? `${w.name ? `${word.toLowerCase()} ${use.index + 1} of ${use.route.name}` : where}${use.n > 1 ? ` · shared by ${use.n}` : ''}`
        : 'belongs to no route',
      size: w.at[2],
      users: use?.n ?? 0,
      kind: use?.route.kind ?? 'loose',
      locked: use?.route.locked,
    }
  })
}

export const register: Register = {
  id: 'waypoints',
  stage: 'routes',
  name: 'Waypoints',
  find: 'Find a waypoint',
  plain: true,
  symbol: strokeSymbol(
    (row) =>
      row.kind === 'network'
        ? [{ d: 'M8 1 13 6 8 11 3 6Z', ink: 'pine', width: 1.6, fill: 'sheet' }]
        : [{ d: circle(8, 6, 4.5), ink: LINES[row.kind ?? 'loose'].ink, width: 2, fill: 'sheet' }],
    17,
    12,
  ),
  foot: RouteFoot,
  use() {
    const levels = useLevelStore()
    const n = computed(() => Object.keys(levels.doc.waypoints).length)
    const waypointOf = (id: string) =>
      levels.doc.waypoints[id]
        ? id
        : Object.values(levels.doc.routes)
            .map((r) => r.stops[id]?.waypointId)
            .find(Boolean)
    return {
      rows: computed(() => rowsOf(levels)),
      count: n,
      figure: computed(() => (n.value > 0 ? count(n.value, 'waypoint') : '')),
      empty: computed(() => 'No waypoints yet.'),
      actions: {
        rename(id, name) {
          const waypointId = waypointOf(id)
          if (waypointId)
            levels.perform(setThings, { things: [{ in: 'waypoints', id: waypointId, set: { name } }], word: 'Rename' })
        },
        zoom: requestZoom,
      },
      lists: () => false,
    }
  },
}
