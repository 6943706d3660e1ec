import { ringHolds } from '@tidytrail/core/geometry'
import { terrainOf } from '@tidytrail/core/ground'
import { defineView } from '../kind-view'
import { ORDER } from '../hits'
import { SOLIDS_LAYER } from '../layers'
import { drawSolidChosen, drawSolidLabels, drawSolids } from './draw'
import { boxTool, cylinderTool, rampTool, stairsTool } from './draw-block'
import { prismTool } from './draw-prism'
import { dragHandle, handlesOf, TURN_HANDLE, turns } from './handles'
import { register } from './register'
import SolidCard from './SolidCard.vue'

export const solidView = defineView({
  in: 'solids',
  stage: 'ground',
  layer: SOLIDS_LAYER,
  tone: 'text-ink',
  word: (solid) => solid.shape,
  card: SolidCard,
  painters: [
    { on: 'under', order: 31, layer: SOLIDS_LAYER.id, draw: (pen, { level }) => drawSolids(pen, level) },
    { on: 'under', order: 72, layer: SOLIDS_LAYER.id, draw: (pen, { level }) => drawSolidLabels(pen, level) },
    {
      on: 'over',
      order: 0,
      layer: SOLIDS_LAYER.id,
      draw(pen, { level, chosen, alone }) {
        for (const id of chosen) {
          const solid = level.solids[id]
          if (solid) drawSolidChosen(pen, level, id, alone === id && !solid.locked ? handlesOf(solid) : [])
        }
      },
    },
  ],
  hits: [
    {
      order: ORDER.standing,
      layer: SOLIDS_LAYER.id,
      finds: 'solids',
      find({ level }, { x, y }, offer) {
        const { solids, near } = terrainOf(level)
        const top = near({ minX: x, minY: y, maxX: x, maxY: y })
          .map((k) => solids[k])
          .filter((s) => ringHolds(s.ring, x, y) && !level.solids[s.id].hidden && !level.solids[s.id].locked)
          .sort((a, b) => b.topM - a.topM)[0]
        if (top) offer(0, { kind: 'thing', in: 'solids', id: top.id })
      },
    },
  ],
  handles: {
    at: handlesOf,
    drag(solid, handle, p) {
      const turning = turns(solid) && handle === TURN_HANDLE
      return dragHandle(solid, handle, turning ? [p.x, p.y] : [p.at[0], p.at[1]], p.shift)
    },
  },
  register,
  tools: [boxTool, cylinderTool, prismTool, rampTool, stairsTool],
  found: (level, id) => ({ name: level.solids[id].name || 'Unnamed', kind: level.solids[id].shape }),
  overlook: async () => (await import('./overlook')).part,
})
