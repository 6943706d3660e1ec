import { distanceToLine, distanceToSegment } from '@tidytrail/core/geometry'
import { laneNet } from '@tidytrail/core/traffic'
import { LEG_PX } from '../../map/hit'
import { ORDER } from '../hits'
import { defineView } from '../kind-view'
import { ROUTES_LAYER } from '../layers'
import { drawLinks, drawNodes } from './draw'
import { linkTool } from './link-tool'
import { register } from './register'

/** Links, and the nodes they join. Their card takes several at once, so the sheet opens it by itself. */
export const linkView = defineView({
  in: 'links',
  stage: 'routes',
  layer: ROUTES_LAYER,
  tone: 'text-pine',
  painters: [
    {
      on: 'over',
      order: 30,
      layer: ROUTES_LAYER.id,
      draw: (pen, { level, whole, chosen, hovered }) => drawLinks(pen, level, whole, chosen, hovered),
    },
    {
      on: 'over',
      order: 32,
      layer: ROUTES_LAYER.id,
      draw: (pen, { level, chosen, hovered }) => drawNodes(pen, level, chosen, hovered),
    },
  ],
  hits: [
    {
      order: ORDER.line,
      layer: ROUTES_LAYER.id,
      finds: 'link',
      find({ level }, { x, y, view }, offer) {
        const hidden = new Set(Object.values(level.routes).flatMap((r) => (r.hidden ? r.linkIds : [])))
        const { moves } = laneNet(level)
        for (const id in level.links) {
          if (hidden.has(id)) continue
          const move = moves.get(id)
          if (move) {
            const px = distanceToLine(move.line.places, x, y) * view.scale
            if (px < LEG_PX) offer(px, { kind: 'link', id })
            continue
          }
          const { fromId, toId } = level.links[id]
          const [a, b] = [level.waypoints[fromId].at, level.waypoints[toId].at]
          const px = distanceToSegment(x, y, a[0], a[1], b[0], b[1]) * view.scale
          if (px < LEG_PX) offer(px, { kind: 'link', id })
        }
      },
    },
  ],
  register,
  tools: [linkTool],
  found: false,
})
