import { defineView } from '../kind-view'
import { ROUTES_LAYER } from '../layers'

export const junctionView = defineView({ in: 'junctions', stage: 'routes', layer: ROUTES_LAYER, tone: 'text-ink' })
