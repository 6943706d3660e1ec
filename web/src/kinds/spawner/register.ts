import type { Spawner } from '@tidytrail/core/level'
import { routesOfSpawner } from '@tidytrail/core/network'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { count } from '../../ui/figures'
import { strokeSymbol, useCollection, useRows } from '../plain-register'
import type { Register } from '../register'
import SpawnerFoot from './SpawnerFoot.vue'

export const register: Register = {
  id: 'spawners',
  stage: 'cast',
  name: 'Spawners',
  find: 'Find a spawner',
  symbol: strokeSymbol(
    () => [
      { d: 'M16 1H1v14h15', ink: 'ink', width: 1.6 },
      { d: 'M15 8c-3-3-5-4-8-4a4 4 0 0 0 0 8c3 0 5-1 8-4z', ink: 'pine', width: 0, fill: 'pine' },
    ],
    18,
    16,
  ),
  foot: SpawnerFoot,
  use() {
    const levels = useLevelStore()
    return {
      ...useCollection('spawners'),
      figure: computed(() =>
        count(
          Object.values(levels.doc.spawners).reduce((n, s) => n + s.count, 0),
          'agent',
        ),
      ),
      rows: useRows('spawners', (s: Spawner, id) => {
        const route = routesOfSpawner(levels.doc, id)[0]
        const who = s.profileId ? levels.doc.profiles[s.profileId].name : 'no profile'
        return { detail: `${s.count} × ${who} · ${route ? levels.doc.routes[route].name : 'no route'}`, size: s.count }
      }),
      empty: computed(() => 'Nobody appears here yet. Place a spawner, then drop a route on it.'),
    }
  },
}
