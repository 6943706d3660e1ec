import { besideLine } from '@tidytrail/core/geometry'
import type { Level } from '@tidytrail/core/level'
import { laneNet, lanesBeside, partOf, stretchesOfChange } from '@tidytrail/core/traffic'
import { X, Y, type Pen } from '../../map/pen'
import { stroke } from './styles/style'

/** With fewer pixels to the metre no dashes are told apart. */
const LEAST_SCALE = 2.5
/** Dashes and the gaps between them, metres. */
const DASH_M = 3
const GAP_M = 3

/** Breaks the line between two lanes where it may be changed from the one into the other, as on the road. */
export function drawChanging(pen: Pen, level: Level, routeId: string): void {
  const { c, view, inks } = pen
  if (view.scale < LEAST_SCALE) return
  const net = laneNet(level)
  const lane = net.lanes.get(routeId)
  if (!lane) return
  c.save()
  c.lineCap = 'butt'
  c.setLineDash([GAP_M * view.scale, DASH_M * view.scale])
  for (const of of lanesBeside(net).get(routeId) ?? []) {
    const { widthM } = lane.route
    // The line between both is drawn by both: its gaps once, by the one whose right side it is.
    if (of.side === 1) continue
    for (const stretch of stretchesOfChange(net, lane, of)) {
      const line = partOf(lane.line, stretch).places.map((p): [number, number] => [X(pen, p[0]), Y(pen, p[1])])
      if (line.length > 1) stroke(c, besideLine(line, (widthM / 2) * view.scale), inks.colour.sheet, 2.4, 1)
    }
  }
  c.restore()
  c.globalAlpha = 1
}
