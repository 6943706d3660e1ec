import { NEAR_PX } from '../../map/hit'
import { looseWaypoints } from '../link/draw'
import { ORDER } from '../hits'
import { defineView } from '../kind-view'
import { ROUTES_LAYER } from '../layers'
import { register } from './register'
import WaypointCard from './WaypointCard.vue'

/** Waypoints are drawn and found as stops of routes and nodes of networks; here are those that belong to nothing. */
export const waypointView = defineView({
  in: 'waypoints',
  stage: 'routes',
  layer: ROUTES_LAYER,
  tone: 'text-faded',
  card: WaypointCard,
  painters: [],
  hits: [
    {
      order: ORDER.loose,
      layer: ROUTES_LAYER.id,
      finds: 'waypoints',
      find({ level }, at, offer) {
        for (const id of looseWaypoints(level)) {
          const px = at.off(level.waypoints[id].at)
          if (px < NEAR_PX) offer(px, { kind: 'thing', in: 'waypoints', id })
        }
      },
    },
  ],
  register,
  found: false,
})
