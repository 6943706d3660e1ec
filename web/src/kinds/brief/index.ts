import { defineView } from '../kind-view'
import { PLACES_LAYER } from '../layers'
import BriefCard from './BriefCard.vue'

/** It lies nowhere; it has a card, and a list once there is one. */
export const briefView = defineView({
  in: 'briefs',
  stage: 'cast',
  layer: PLACES_LAYER,
  tone: 'text-ink',
  card: BriefCard,
})
