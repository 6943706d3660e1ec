import { defineView } from '../kind-view'
import { PLACES_LAYER } from '../layers'
import { zoneTool } from './draw-zone'

export const zoneView = defineView({
  in: 'zones',
  stage: 'cast',
  layer: PLACES_LAYER,
  tone: 'text-ink',
  tools: [zoneTool],
})
