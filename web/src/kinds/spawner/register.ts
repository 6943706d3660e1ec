import { briefIdOf, type Spawner } from '@tidytrail/core/level'
import { routesOfSpawner } from '@tidytrail/core/network'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { count } from '../../ui/figures'
import { useCollection, useRows } from '../plain-register'
import SpawnerDrop from './SpawnerDrop.vue'
import type { Register } from '../register'
import SpawnerFoot from './SpawnerFoot.vue'

export const register: Register = {
  id: 'spawners',
  stage: 'cast',
  name: 'Spawners',
  find: 'Find a spawner',
  symbol: SpawnerDrop,
  foot: SpawnerFoot,
  use() {
    const levels = useLevelStore()
    return {
      ...useCollection('spawners'),
      figure: computed(() =>
        count(
          Object.values(levels.doc.spawners).reduce((n, s) => n + (s.where === 'lanes' ? 0 : s.count), 0),
          'agent',
        ),
      ),
      rows: useRows('spawners', (s: Spawner, id) => {
        const routes = [...new Set(routesOfSpawner(levels.doc, id))].flatMap((r) =>
          r ? [levels.doc.routes[r].name] : [],
        )
        const brief = levels.doc.briefs[briefIdOf(levels.doc, s) ?? '']
        const who = s.profileId ? levels.doc.profiles[s.profileId].name : 'no profile'
        if (s.where === 'lanes') {
          const perH = s.perH * s.laneIds.length
          return {
            detail: `${Math.round(perH)} an hour · ${who} · onto ${count(s.laneIds.length, 'lane')}`,
            size: perH,
          }
        }
        return { detail: `${s.count} × ${who} · ${routes.join(', ') || brief?.name || 'nothing to do'}`, size: s.count }
      }),
      empty: computed(() => 'Nobody appears here yet. Place a spawner, then drop a route on it.'),
    }
  },
}
