import { laneNet } from '@tidytrail/core/traffic'
import { computed } from 'vue'
import { requestZoom } from '../../map/zoom-wish'
import { useLevelStore } from '../../stores/level'
import { count, metres } from '../../ui/figures'
import { strokeSymbol } from '../plain-register'
import type { Register, RegisterRow } from '../register'
import RouteFoot from '../route/RouteFoot.vue'

function rowsOf(levels: ReturnType<typeof useLevelStore>): RegisterRow[] {
  const { waypoints, links, routes } = levels.doc
  const names = new Map<string, string>()
  for (const r of Object.values(routes))
    r.order.forEach((s, i) => names.set(r.stops[s].waypointId, `${r.name} ${i + 1}`))
  const name = (id: string) => waypoints[id].name || names.get(id) || 'waypoint'
  const { moves } = laneNet(levels.doc)
  return Object.entries(links).map(([id, l]) => {
    const move = moves.get(id)
    if (move) {
      const m = move.line.lengthM
      // Two names side by side would be cut off.
      return { id, name: routes[move.from].name, detail: `into ${routes[move.to].name} · ${metres(m)}`, size: m }
    }
    const [a, b] = [waypoints[l.fromId].at, waypoints[l.toId].at]
    const m = Math.hypot(a[0] - b[0], a[1] - b[1])
    return {
      id,
      name: `${name(l.fromId)} ${l.twoWay ? '–' : '→'} ${name(l.toId)}`,
      detail: `${l.twoWay ? 'both ways' : 'one way'} · ${metres(m)}`,
      size: m,
    }
  })
}

export const register: Register = {
  id: 'links',
  stage: 'routes',
  name: 'Links',
  find: 'Find a link',
  plain: true,
  symbol: strokeSymbol(() => [{ d: 'M0 6h17', ink: 'pine', width: 1.5 }], 17, 12),
  foot: RouteFoot,
  use() {
    const levels = useLevelStore()
    const n = computed(() => Object.keys(levels.doc.links).length)
    return {
      rows: computed(() => rowsOf(levels)),
      count: n,
      figure: computed(() => (n.value > 0 ? count(n.value, 'link') : '')),
      empty: computed(() => 'No links yet. Take the Link tool (L) and click from waypoint to waypoint.'),
      actions: { zoom: requestZoom },
      lists: () => false,
    }
  },
}
