import { besideLine } from '@tidytrail/core/geometry'
import type { Level } from '@tidytrail/core/level'
import { directionAt, laneNet, partOf, placeAt } from '@tidytrail/core/traffic'
import { X, Y, type Pen } from '../../map/pen'
import { stroke } from './styles/style'

/** With fewer pixels to the metre no places are told apart. */
const LEAST_SCALE = 2.5
/** Parking places and platforms are drawn so wide, metres. */
const PLACE_M = 2.6
const PLATFORM_M = 1

/** Draws where those who drive along a lane stand: parking places as a row of bays beside it, a platform along its kerb. */
export function drawHalts(pen: Pen, level: Level, routeId: string): void {
  const { c, view, inks } = pen
  const lane = laneNet(level).lanes.get(routeId)
  if (view.scale < LEAST_SCALE || !lane || lane.route.halts.length === 0) return
  const half = lane.route.widthM / 2
  c.save()
  c.lineCap = 'butt'
  c.setLineDash([])
  for (const { where, fromM, toM, placeM } of lane.route.halts) {
    const end = Math.min(toM, lane.line.lengthM)
    if (end <= fromM) continue
    const line = partOf(lane.line, { fromM, toM: end }).places.map((p): [number, number] => [
      X(pen, p[0]),
      Y(pen, p[1]),
    ])
    if (line.length < 2) continue
    // On the screen north is up, so that the left is below nought.
    const beside = (m: number) => besideLine(line, m * view.scale)
    const kerb = level.settings.drivesOn === 'left' ? -1 : 1
    if (where === 'on') {
      stroke(c, beside(kerb * (half + PLATFORM_M / 2)), inks.colour.ink, PLATFORM_M * view.scale, 0.5)
      continue
    }
    const side = where === 'left' ? -1 : 1
    stroke(c, beside(side * (half + PLACE_M)), inks.colour.ink, 1.4, 0.8)
    for (let m = fromM; m <= end + 1e-6; m += placeM) {
      const [x, y] = placeAt(lane.line, m)
      const rad = directionAt(lane.line, m)
      const [nx, ny] = [side * Math.sin(rad), -side * Math.cos(rad)]
      const ends = [half, half + PLACE_M].map((d): [number, number] => [X(pen, x + nx * d), Y(pen, y + ny * d)])
      stroke(c, ends, inks.colour.ink, 1.4, 0.8)
    }
  }
  c.restore()
  c.globalAlpha = 1
}
