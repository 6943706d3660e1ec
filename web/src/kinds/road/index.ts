import { distanceToLine, toMillimetre } from '@tidytrail/core/geometry'
import { middleLine, type Road } from '@tidytrail/core/level'
import { computed } from 'vue'
import { LEG_PX, NEAR_PX } from '../../map/hit'
import type { Layer } from '../../map/layer'
import { count, metres } from '../../ui/figures'
import { lengthOf } from '@tidytrail/core/geometry'
import { ORDER } from '../hits'
import { defineView } from '../kind-view'
import { strokeSymbol, useCollection, useRows } from '../plain-register'
import type { Register } from '../register'
import { drawRoad } from './draw'
import { roadTool } from './draw-road'
import RoadCard from './RoadCard.vue'
import RoadFoot from './RoadFoot.vue'

const ROADS_LAYER: Layer = {
  id: 'roads',
  name: 'Roads, as wide as their lanes',
  strokes: [
    { d: 'M0 9h34', ink: 'rule', width: 11 },
    { d: 'M0 9h34', ink: 'faded', width: 1, dash: '7 4' },
  ],
}

const register: Register = {
  id: 'roads',
  stage: 'routes',
  name: 'Roads',
  find: 'Find a road',
  symbol: strokeSymbol(() => ROADS_LAYER.strokes, 34, 18),
  foot: RoadFoot,
  use: () => ({
    ...useCollection('roads'),
    rows: useRows<Road>('roads', (road) => ({
      detail: `${metres(lengthOf(road.points))} · ${count(road.ahead + road.back, 'lane')}${road.back === 0 || road.ahead === 0 ? ', one way' : ''}`,
      size: lengthOf(road.points),
    })),
    empty: computed(() => 'A road lays its lanes side by side from one stroke. Draw one with Q.'),
  }),
}

/** Roads: their bed, where they are found, and the places of their middle as handles. */
export const roadView = defineView<'roads'>({
  in: 'roads',
  stage: 'routes',
  layer: ROADS_LAYER,
  tone: 'text-ink',
  card: RoadCard,
  painters: [
    {
      on: 'over',
      order: 18,
      layer: ROADS_LAYER.id,
      reads: ['roads'],
      draw(pen, { level, chosen, hovered }) {
        for (const [id, road] of Object.entries(level.roads))
          if (!road.hidden) drawRoad(pen, road, level.settings.drivesOn, chosen.has(id), hovered === id)
      },
    },
  ],
  hits: [
    {
      order: ORDER.loose,
      layer: ROADS_LAYER.id,
      finds: 'roads',
      find({ level, chosen }, at, offer) {
        for (const [id, road] of Object.entries(level.roads)) {
          if (road.hidden) continue
          if (chosen.has(id) && !road.locked)
            road.points.forEach((place, handle) => {
              const px = at.off(place)
              if (px < NEAR_PX) offer(px - 1, { kind: 'thing', in: 'roads', id, handle })
            })
          const px = distanceToLine(middleLine(road), at.x, at.y) * at.view.scale
          if (px < LEG_PX) offer(px + NEAR_PX, { kind: 'thing', in: 'roads', id })
        }
      },
    },
  ],
  handles: {
    at: (road) => road.points,
    drag: (road, handle, p) => ({
      points: road.points.map((q, k) => (k === handle ? (p.at.map(toMillimetre) as [number, number, number]) : q)),
    }),
  },
  register,
  tools: [roadTool],
})
