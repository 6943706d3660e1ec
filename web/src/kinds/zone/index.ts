import { areaOf, type Zone } from '@tidytrail/core/level'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { count } from '../../ui/figures'
import type { Stroke } from '../../ui/stroke'
import { strokeSymbol, useCollection, useRows } from '../plain-register'
import type { Register } from '../register'
import type { HitTest } from '../../map/hit'
import { LEG_PX } from '../../map/hit'
import { ORDER } from '../hits'
import { defineView } from '../kind-view'
import { PLACES_LAYER } from '../layers'
import { drawZones } from './draw'
import { zoneTool } from './draw-zone'
import ZoneCard from './ZoneCard.vue'

/** Found by its border. */
const onBorder: HitTest = {
  order: ORDER.flat,
  layer: PLACES_LAYER.id,
  finds: 'zones',
  find(scene, at, offer) {
    if (scene.stage !== 'cast') return
    for (const [id, zone] of Object.entries(scene.level.zones)) {
      if (zone.hidden || zone.locked) continue
      const area = areaOf(scene.level, zone)
      if (area && area.edgeM(at.x, at.y) * at.view.scale < LEG_PX) return offer(0, { kind: 'thing', in: 'zones', id })
    }
  },
}

/** The border of each purpose in small. */
const BORDERS: Readonly<Record<Zone['purpose'], readonly Stroke[]>> = {
  wander: [{ d: 'M2 2h17v13H2z', ink: 'ink', width: 1.8, dash: '1 3' }],
  guard: [{ d: 'M2 2h17v13H2zM5 5h11v7H5z', ink: 'ink', width: 1.2 }],
  hold: [{ d: 'M2 2h17v13H2zM6 2v3M10.5 2v3M15 2v3M6 15v-3M10.5 15v-3M15 15v-3', ink: 'ink', width: 1.2 }],
  start: [{ d: 'M3 5h15v9H3zM8 3l2.5-2L13 3', ink: 'ink', width: 1.3 }],
  contest: [{ d: 'M2 4h17v9H2zM6 4v3M10 4V1M14 4v3M8 13v3M12 13v-3', ink: 'ink', width: 1.2 }],
  'keep-out': [{ d: 'M2 3h17v11H2zM4 1l4 4M8 1L4 5M13 1l4 4M17 1l-4 4', ink: 'ink', width: 1.2 }],
}

const register: Register = {
  id: 'zones',
  stage: 'cast',
  name: 'Zones',
  find: 'Find a zone',
  ifAny: true,
  symbol: strokeSymbol((row) => BORDERS[(row.kind ?? 'wander') as Zone['purpose']], 21, 17),
  use() {
    const levels = useLevelStore()
    return {
      ...useCollection('zones'),
      rows: useRows<Zone>('zones', (zone, id) => {
        const posts = Object.values(levels.doc.posts).filter((p) => p.zoneId === id).length
        const purpose = zone.purpose.replace('-', ' ')
        return { detail: posts > 0 ? `${purpose} · ${count(posts, 'post')}` : purpose, size: posts, kind: zone.purpose }
      }),
      empty: computed(() => 'No zone yet. Draw one with Z.'),
    }
  },
}

export const zoneView = defineView({
  in: 'zones',
  stage: 'cast',
  layer: PLACES_LAYER,
  tone: 'text-ink',
  card: ZoneCard,
  painters: [
    {
      on: 'over',
      order: 38,
      layer: PLACES_LAYER.id,
      reads: ['routes', 'waypoints'],
      draw: (pen, { level, chosen, hovered }) => drawZones(pen, level, chosen, hovered),
    },
  ],
  hits: [onBorder],
  register,
  tools: [zoneTool],
})
