import { toMillimetre } from '@tidytrail/core/geometry'
import type { Layer } from '../../map/layer'
import { ORDER, placeTest } from '../hits'
import { defineView } from '../kind-view'
import { drawSpawners } from './draw'
import { placeSpawnerTool } from './place-spawner'
import { register } from './register'
import SpawnerCard from './SpawnerCard.vue'

const layer: Layer = {
  id: 'spawners',
  name: 'Spawners',
  strokes: [
    { d: 'M25 2H9v14h16', ink: 'ink', width: 1.5 },
    { d: 'M24 9c-3-2-4-3-7-3a3 3 0 0 0 0 6c3 0 4-1 7-3z', ink: 'pine', width: 0, fill: 'pine' },
  ],
}

export const spawnerView = defineView({
  in: 'spawners',
  stage: 'cast',
  layer,
  tone: 'text-pine',
  card: SpawnerCard,
  painters: [
    {
      on: 'over',
      order: 40,
      layer: layer.id,
      reads: ['factions', 'squads', 'routes', 'waypoints', 'links'],
      draw: (pen, { level, chosen, hovered }) => drawSpawners(pen, level, chosen, hovered),
    },
  ],
  hits: [placeTest('spawners', 'at', layer.id, ORDER.spot)],
  register,
  tools: [placeSpawnerTool],
  handles: {
    at: (s) => (s.where === 'spots' ? s.spots : []),
    drag: (s, handle, p) => ({
      spots: s.spots.map((q, k) => (k === handle ? (p.at.map(toMillimetre) as [number, number, number]) : q)),
    }),
  },
  overlook: async () => (await import('./overlook')).part,
})
