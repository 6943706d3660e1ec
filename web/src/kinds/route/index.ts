import { besideLine, boxesMeet, distanceToLine } from '@tidytrail/core/geometry'
import { courseOf } from '@tidytrail/core/network'
import { LEG_PX, NEAR_PX } from '../../map/hit'
import type { Pen } from '../../map/pen'
import type { MapScene } from '../../map/scene'
import { seenBox } from '../../map/viewport'
import { ORDER } from '../hits'
import { defineView } from '../kind-view'
import { ROUTES_LAYER } from '../layers'
import { connectTool } from './connect-tool'
import { drawRouteLines } from './draw'
import { drawRouteTool } from './draw-route'
import { drawStops } from './draw-stops'
import { extentOf, MANY_ROUTES, type RouteLook } from './look'
import { pickOrderTool } from './pick-order'
import { register } from './register'
import RouteCard from './RouteCard.vue'
import { spliceTool } from './splice'

/** Routes that are drawn as lines, the chosen ones last, with how each is shown. */
function drawn(pen: Pen, scene: MapScene) {
  const routes = Object.entries(scene.level.routes)
    .filter(([, r]) => !r.hidden && r.kind !== 'network')
    .sort(([a], [b]) => Number(scene.chosenRoutes.has(a)) - Number(scene.chosenRoutes.has(b)))
  const seen = seenBox(pen.view)
  let inView = 0
  for (const [, route] of routes)
    if (route.order.length > 0 && boxesMeet(extentOf(scene.level, route).box, seen)) inView++
  const looks = routes.map(([id]): RouteLook => ({
    chosen: scene.chosenRoutes.has(id),
    hovered: scene.hovered === id,
    chosenStops: scene.chosen,
    paths: scene.paths.get(id)?.paths,
    shifts: scene.shifts.get(id),
    plain: inView > MANY_ROUTES,
  }))
  return { routes, looks }
}

/** The stops of so many routes are looked through at a time. */
const ROUTES_AT_ONCE = 20

export const routeView = defineView({
  in: 'routes',
  stage: 'routes',
  layer: ROUTES_LAYER,
  tone: 'text-rust',
  word: (r) => r.kind,
  card: RouteCard,
  painters: [
    {
      on: 'over',
      order: 31,
      layer: ROUTES_LAYER.id,
      *draw(pen, scene) {
        const { routes, looks } = drawn(pen, scene)
        yield* drawRouteLines(pen, scene.level, routes, looks)
        for (const [i, [, route]] of routes.entries()) {
          if (i % ROUTES_AT_ONCE === 0) yield
          yield* drawStops(pen, scene.level, route, looks[i])
        }
      },
    },
  ],
  hits: [
    {
      order: ORDER.stop,
      layer: ROUTES_LAYER.id,
      finds: 'stop',
      find({ level, chosenRoutes }, at, offer) {
        for (const [routeId, route] of Object.entries(level.routes)) {
          if (route.hidden) continue
          const bonus = chosenRoutes.has(routeId) ? 2 : 0
          for (const id of route.order) {
            const { waypointId } = route.stops[id]
            const px = at.off(level.waypoints[waypointId].at) - bonus
            if (px < NEAR_PX) offer(px, { kind: 'stop', id, routeId, waypointId })
          }
        }
      },
    },
    {
      order: ORDER.line,
      layer: ROUTES_LAYER.id,
      finds: 'leg',
      find({ level, paths: known, shifts, chosenRoutes }, { x, y, view }, offer) {
        for (const [id, route] of Object.entries(level.routes)) {
          if (route.hidden || route.kind === 'network') continue
          const paths = known.get(id)?.paths
          const own = shifts.get(id)
          courseOf(route, level.waypoints).forEach((line, i) => {
            const path = paths?.[i]
            const shown = path?.found ? path.line : line
            const shift = own?.[i] ?? 0
            const near = shift === 0 ? shown : besideLine(shown, shift / view.scale)
            const wide = route.kind === 'lane' ? (route.widthM * view.scale) / 2 : 0
            const px = Math.max(0, distanceToLine(near, x, y) * view.scale - wide) - (chosenRoutes.has(id) ? 1 : 0)
            if (px < LEG_PX) offer(px, { kind: 'leg', id, leg: i })
          })
        }
      },
    },
  ],
  register,
  tools: [drawRouteTool, spliceTool, pickOrderTool, connectTool],
  found: (level, id) => ({ name: level.routes[id].name, kind: level.routes[id].kind }),
  overlook: async () => (await import('./overlook')).part,
})
