import { besideLine } from '@tidytrail/core/geometry'
import type { Level } from '@tidytrail/core/level'
import { crossingsOf, laneNet, walkedLanes } from '@tidytrail/core/traffic'
import { X, Y, type Pen } from '../../map/pen'
import { stroke } from './styles/style'

/** With fewer pixels to the metre no bars are told apart. */
const LEAST_SCALE = 2.5
/** Bars and the gaps between them, metres. */
const BAR_M = 0.5
const GAP_M = 0.6

/** Marks where a lane for walking leads over lanes: bars where vehicles wait, two broken edges where those who walk do. */
export function drawCrossings(pen: Pen, level: Level, laneIds: ReadonlySet<string>): void {
  const { c, view, inks } = pen
  if (view.scale < LEAST_SCALE) return
  const net = laneNet(level)
  c.save()
  c.lineCap = 'butt'
  c.setLineDash([BAR_M * view.scale, GAP_M * view.scale])
  for (const { laneId, line, widthM, waits } of crossingsOf(level, walkedLanes(level), net)) {
    if (!laneIds.has(laneId)) continue
    const places = line.places.map((p): [number, number] => [X(pen, p[0]), Y(pen, p[1])])
    if (waits === 'vehicles') stroke(c, places, inks.colour.ink, widthM * view.scale, 0.55)
    else
      for (const side of [1, -1])
        stroke(c, besideLine(places, (side * widthM * view.scale) / 2), inks.colour.ink, 1.6, 0.8)
  }
  c.restore()
  c.globalAlpha = 1
}
