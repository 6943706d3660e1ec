import { ROUTE_KINDS, type Route } from '@tidytrail/core/level'
import { routesOfSpawner } from '@tidytrail/core/network'
import { laneNet } from '@tidytrail/core/traffic'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { useSurveyStore } from '../../stores/survey'
import { count, metres, TRAVEL_WORDS } from '../../ui/figures'
import { strokeSymbol, useCollection } from '../plain-register'
import type { Register, RegisterRow } from '../register'
import { KIND_WORDS } from './draw-options'
import { LINES } from './lines'
import { walkedLength } from './measures'
import RouteFoot from './RouteFoot.vue'

export const register: Register = {
  id: 'routes',
  stage: 'routes',
  name: 'Routes',
  find: 'Find a route',
  symbol: strokeSymbol((row) => [{ d: 'M0 6h17', ...LINES[row.kind ?? 'network'] }], 17, 12),
  foot: RouteFoot,
  use() {
    const levels = useLevelStore()
    const survey = useSurveyStore()
    /** Metres; undefined while no path along the route is known. A lane nobody can drive along yet is as long as it is drawn. */
    const lengthOf = (id: string) => {
      const known = survey.paths.get(id)
      return known ? walkedLength(known.paths) : laneNet(levels.doc).lanes.get(id)?.line.lengthM
    }
    const routes = computed(() => Object.entries(levels.doc.routes))
    /** How many spawners send agents along each route. */
    const followers = computed(() => {
      const counts = new Map<string, number>()
      for (const id of Object.keys(levels.doc.spawners)) {
        for (const r of new Set(routesOfSpawner(levels.doc, id))) if (r) counts.set(r, (counts.get(r) ?? 0) + 1)
      }
      return counts
    })
    const detailOf = (id: string, r: Route) => {
      if (r.kind === 'network') return `${count(r.order.length, 'node')} · ${count(r.linkIds.length, 'link')}`
      const lengthM = lengthOf(id)
      const length = lengthM === undefined ? '…' : metres(lengthM)
      return `${TRAVEL_WORDS[r.travel].toLowerCase()} · ${count(r.order.length, 'stop')} · ${length}`
    }
    const rows = computed(() =>
      routes.value.map(([id, r]): RegisterRow => ({
        id,
        routeId: id,
        name: r.name || 'Unnamed',
        detail: detailOf(id, r),
        hidden: r.hidden,
        locked: r.locked,
        size: lengthOf(id) ?? 0,
        users: followers.value.get(id) ?? 0,
        kind: r.kind,
      })),
    )
    return {
      ...useCollection('routes'),
      rows,
      figure: computed(() => {
        const total = rows.value.reduce((sum, r) => sum + r.size, 0)
        return rows.value.length > 0 ? `${rows.value.length}${total > 0 ? ` · ${metres(total)}` : ''}` : ''
      }),
      empty: computed(
        () => 'No routes yet. Draw one: click stop by stop on the map, and click the first again to close the round.',
      ),
      kinds: computed(() =>
        ROUTE_KINDS.filter((k) => routes.value.some(([, r]) => r.kind === k)).map((k) => ({
          id: k,
          name: `${KIND_WORDS[k]}s`,
        })),
      ),
    }
  },
}
