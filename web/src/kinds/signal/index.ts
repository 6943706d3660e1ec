import { defineView } from '../kind-view'
import { PLACES_LAYER } from '../layers'

/** It lies nowhere: it has a card, and a list once there is one. */
export const signalView = defineView({ in: 'signals', stage: 'cast', layer: PLACES_LAYER, tone: 'text-ink' })
