import type { Point3 } from '@tidytrail/core/geometry'
import { laneLines, laneOffsets, middleLine, type Road } from '@tidytrail/core/level'
import { label, traceLine, X, Y, type Pen } from '../../map/pen'

const beds = new WeakMap<Road, { side: string; lines: readonly (readonly Point3[])[] }>()

/** The lanes of a track, laid once for each state of it. */
function bedsOf(road: Road, side: 'left' | 'right'): readonly (readonly Point3[])[] {
  let known = beds.get(road)
  if (known?.side !== side)
    beds.set(road, (known = { side, lines: laneLines(road, side).flatMap((l) => (l.use === 'drive' ? [l.line] : [])) }))
  return known.lines
}

/** A road: its bed as wide as all of it, its middle as a fine line, and its name along the way. */
export function drawRoad(pen: Pen, road: Road, drivesOn: 'left' | 'right', on: boolean, hovered: boolean): void {
  const { c, inks, view } = pen
  const line = middleLine(road)
  const sides = laneOffsets(road, drivesOn)
  const reach = (side: 1 | -1) => sides.reduce((most, { m, widthM }) => Math.max(most, side * m + widthM / 2), 0)
  const [left, right] = [reach(1), reach(-1)]
  c.lineCap = 'butt'
  c.lineJoin = 'round'
  c.strokeStyle = inks.colour.rule
  c.globalAlpha = on || hovered ? 0.75 : 0.45
  // A track is as wide as its lanes lie apart, which is not the same all along.
  const lanes = road.track ? bedsOf(road, drivesOn) : [line]
  c.lineWidth = Math.max(2, (road.track ? road.laneM : 2 * Math.max(left, right)) * view.scale)
  c.beginPath()
  for (const lane of lanes) traceLine(pen, lane)
  c.stroke()
  c.globalAlpha = 1
  c.strokeStyle = on ? inks.colour.rust : inks.colour.faded
  c.lineWidth = on ? 2 : 1
  c.setLineDash(on ? [] : [10, 6])
  c.beginPath()
  traceLine(pen, line)
  c.stroke()
  c.setLineDash([])
  if (on) {
    c.fillStyle = inks.colour.sheet
    for (const [x, y] of road.points) {
      c.beginPath()
      c.rect(X(pen, x) - 4, Y(pen, y) - 4, 8, 8)
      c.fill()
      c.stroke()
    }
  }
  if (on || view.scale > 3) {
    const [x, y] = line[Math.floor(line.length / 2)]
    label(pen, road.name, X(pen, x), Y(pen, y), { size: 11, bold: on })
  }
}
