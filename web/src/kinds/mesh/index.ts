import { outlineIn, terrainOf } from '@tidytrail/core/ground'
import { drawFrameChosen } from '../../map/outline'
import { ORDER } from '../hits'
import { defineView } from '../kind-view'
import { SOLIDS_LAYER } from '../layers'
import { drawMeshes, drawMeshLabels } from './draw'
import MeshCard from './MeshCard.vue'
import { register } from './register'

export const meshView = defineView({
  in: 'meshes',
  stage: 'ground',
  layer: SOLIDS_LAYER,
  tone: 'text-ink',
  card: MeshCard,
  painters: [
    { on: 'under', order: 30, layer: SOLIDS_LAYER.id, draw: (pen, { level, plans }) => drawMeshes(pen, level, plans) },
    { on: 'under', order: 71, layer: SOLIDS_LAYER.id, draw: (pen, { level }) => drawMeshLabels(pen, level) },
    {
      on: 'over',
      order: 1,
      draw(pen, { level, chosen }) {
        for (const id of chosen) if (level.meshes[id]) drawFrameChosen(pen, outlineIn(level, 'meshes', id))
      },
    },
  ],
  hits: [
    {
      order: ORDER.standing,
      layer: SOLIDS_LAYER.id,
      finds: 'meshes',
      find({ level }, { x, y }, offer) {
        const mesh = terrainOf(level).meshes.find((m) => {
          const { hidden, locked } = level.meshes[m.id] ?? { hidden: true }
          return !hidden && !locked && m.near({ minX: x, minY: y, maxX: x, maxY: y }).length > 0
        })
        // Under a solid at the same place.
        if (mesh) offer(1, { kind: 'thing', in: 'meshes', id: mesh.id })
      },
    },
  ],
  register,
  overlook: async () => (await import('./overlook')).part,
})
