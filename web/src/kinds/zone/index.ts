import { areaOf } from '@tidytrail/core/level'
import type { HitTest } from '../../map/hit'
import { LEG_PX } from '../../map/hit'
import { ORDER } from '../hits'
import { defineView } from '../kind-view'
import { PLACES_LAYER } from '../layers'
import { drawZones } from './draw'
import { zoneTool } from './draw-zone'
import ZoneCard from './ZoneCard.vue'

/** Found by its border. */
const onBorder: HitTest = {
  order: ORDER.flat,
  layer: PLACES_LAYER.id,
  finds: 'zones',
  find(scene, at, offer) {
    if (scene.stage !== 'cast') return
    for (const [id, zone] of Object.entries(scene.level.zones)) {
      if (zone.hidden || zone.locked) continue
      const area = areaOf(scene.level, zone)
      if (area && area.edgeM(at.x, at.y) * at.view.scale < LEG_PX) return offer(0, { kind: 'thing', in: 'zones', id })
    }
  },
}

export const zoneView = defineView({
  in: 'zones',
  stage: 'cast',
  layer: PLACES_LAYER,
  tone: 'text-ink',
  card: ZoneCard,
  painters: [
    {
      on: 'over',
      order: 38,
      layer: PLACES_LAYER.id,
      reads: ['routes', 'waypoints'],
      draw: (pen, { level, chosen, hovered }) => drawZones(pen, level, chosen, hovered),
    },
  ],
  hits: [onBorder],
  tools: [zoneTool],
})
