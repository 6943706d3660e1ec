import { computed } from 'vue'
import { circle } from '../../ui/stroke'
import { count } from '../../ui/figures'
import { defineView } from '../kind-view'
import type { Layer } from '../../map/layer'
import { strokeSymbol, useCollection, useRows } from '../plain-register'
import type { Register } from '../register'
import { drawJunctions, drawLooked } from './draw'
import { roundaboutTool } from './draw-roundabout'
import JunctionCard from './JunctionCard.vue'
import JunctionFoot from './JunctionFoot.vue'
import type { Junction } from '@tidytrail/core/level'

const layer: Layer = {
  id: 'junctions',
  name: 'Junctions, with who waits',
  strokes: [
    { d: 'M7 2h20l5 7-5 7H7L2 9z', ink: 'plum', width: 1.6, dash: '5 3' },
    { d: circle(17, 9, 2.4), ink: 'plum', width: 1.6 },
  ],
}
const CONTROL: Record<Junction['control'], string> = {
  none: 'nothing settles it',
  'give-way': 'give way',
  stop: 'stop',
  'all-way': 'all stop',
  side: 'priority from one side',
  signals: 'signals',
}
const register: Register = {
  id: 'junctions',
  stage: 'routes',
  name: 'Junctions',
  find: 'Find a junction',
  symbol: strokeSymbol(() => layer.strokes, 34, 18),
  foot: JunctionFoot,
  use: () => ({
    ...useCollection('junctions'),
    rows: useRows<Junction>('junctions', (j) => ({
      detail: `${CONTROL[j.control]}${j.control === 'signals' ? ` · ${count(j.phases.length, 'stage')}` : ''}`,
      size: j.ring.length,
    })),
    empty: computed(
      () => 'A junction says who goes first where lanes cross or meet. They are made where ways conflict.',
    ),
  }),
}

export const junctionView = defineView<'junctions'>({
  in: 'junctions',
  stage: 'routes',
  layer,
  tone: 'text-plum',
  card: JunctionCard,
  painters: [
    {
      on: 'over',
      order: 41,
      layer: layer.id,
      reads: ['links', 'routes', 'waypoints', 'profiles'],
      draw: (pen, { level, whole, chosen, hovered }) => drawJunctions(pen, level, whole, chosen, hovered),
    },
    {
      on: 'hand',
      order: 42,
      layer: layer.id,
      stage: 'routes',
      draw: (pen, { whole, chosen }) => drawLooked(pen, whole, chosen),
    },
  ],
  register,
  tools: [roundaboutTool],
})
