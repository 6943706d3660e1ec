import { defineView } from '../kind-view'
import { PLACES_LAYER } from '../layers'
import { drawMarkers } from './draw'

export const markerView = defineView({
  in: 'markers',
  stage: 'routes',
  layer: PLACES_LAYER,
  tone: 'text-ink',
  painters: [
    {
      on: 'over',
      order: 42,
      layer: PLACES_LAYER.id,
      draw: (pen, { level, chosen }) => drawMarkers(pen, level, chosen),
    },
  ],
})
