import { toMillimetre } from '@tidytrail/core/geometry'
import type { Counter } from '@tidytrail/core/level'
import { laneNet, nearestM } from '@tidytrail/core/traffic'
import { computed } from 'vue'
import { NEAR_PX } from '../../map/hit'
import type { Layer } from '../../map/layer'
import { useInsightStore } from '../../stores/insight'
import { useRehearsalStore } from '../../stores/rehearsal'
import { ORDER } from '../hits'
import { defineView } from '../kind-view'
import { strokeSymbol, useCollection, useRows } from '../plain-register'
import type { Register } from '../register'
import CounterCard from './CounterCard.vue'
import { drawCounter, drawGridlock, standsAt } from './draw'
import { counterTool } from './place-counter'

const layer: Layer = {
  id: 'counters',
  name: 'Counters, and who waits in a ring',
  strokes: [
    { d: 'M2 5h24M2 13h24', ink: 'rule', width: 1 },
    { d: 'M12 4v10M16 4v10', ink: 'lake', width: 2 },
  ],
}
const perHour = (id: string): string => {
  const figures = useInsightStore().traffic?.counters[id]
  return figures ? `${Math.round(figures.perH).toLocaleString('en')} an hour` : ''
}

const register: Register = {
  id: 'counters',
  stage: 'rehearse',
  name: 'Counters',
  find: 'Find a counter',
  symbol: strokeSymbol(() => layer.strokes, 28, 18),
  use: () => ({
    ...useCollection('counters'),
    rows: useRows<Counter>('counters', (_counter, id) => ({
      detail: perHour(id) || 'not counted yet',
      size: useInsightStore().traffic?.counters[id]?.count ?? 0,
    })),
    empty: computed(() => 'A counter tells what flows past a place on a lane. Place one with N.'),
  }),
}

export const counterView = defineView<'counters'>({
  in: 'counters',
  stage: 'rehearse',
  layer,
  tone: 'text-lake',
  card: CounterCard,
  painters: [
    {
      on: 'top',
      order: 71,
      stage: 'rehearse',
      layer: layer.id,
      draw(pen, { level, chosen }) {
        for (const [id, counter] of Object.entries(level.counters))
          if (!counter.hidden) drawCounter(pen, level, id, chosen.has(id), perHour(id))
        const [{ traffic }, { t, recording }] = [useInsightStore(), useRehearsalStore()]
        for (const ring of traffic?.gridlocks ?? [])
          if (t >= ring.fromS && t <= ring.toS)
            drawGridlock(pen, ring, (key) => {
              const now = recording.moment(key, t)
              return now && [now.x, now.y]
            })
      },
    },
  ],
  hits: [
    {
      order: ORDER.place,
      layer: layer.id,
      finds: 'counters',
      find({ level, stage }, at, offer) {
        if (stage !== 'rehearse') return
        for (const [id, counter] of Object.entries(level.counters)) {
          const place = counter.hidden ? undefined : standsAt(level, id)
          const px = place ? at.off(place.at) : Infinity
          if (px < NEAR_PX) offer(px, { kind: 'thing', in: 'counters', id, handle: 0 })
        }
      },
    },
  ],
  handles: {
    only: true,
    at(counter, level) {
      const id = Object.keys(level.counters).find((k) => level.counters[k] === counter)
      const place = id === undefined ? undefined : standsAt(level, id)
      return place ? [place.at] : []
    },
    // It slides along its lane.
    drag(counter, _handle, p, { levels }) {
      const lane = laneNet(levels.doc).lanes.get(counter.laneId ?? '')
      return lane ? { atM: toMillimetre(nearestM(lane, [p.x, p.y, 0])) } : {}
    },
  },
  register,
  tools: [counterTool],
})
