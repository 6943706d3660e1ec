import { boxesMeet, boxOf } from '@tidytrail/core/geometry'
import type { Level, Route } from '@tidytrail/core/level'
import { legsOf } from '@tidytrail/core/network'
import type { PathAnswer } from '@tidytrail/core/reach'
import { seenBox } from '../viewport'
import { plainText, traceLine, X, Y, type Pen } from '../pen'

/** A pause this long fills its ring, seconds. */
const FULL_RING_S = 20
export const STOP_RADIUS_PX = 10

export interface RouteLook {
  readonly chosen: boolean
  readonly hovered: boolean
  readonly chosenStops: ReadonlySet<string>
  readonly ways: readonly PathAnswer[] | undefined
}

const COLOUR_OF: Record<Route['kind'], 'rust' | 'lake' | 'plum' | 'ochre' | 'pine'> = {
  patrol: 'rust',
  lane: 'lake',
  circuit: 'plum',
  mission: 'ochre',
  network: 'pine',
}

const stopPlaces = (level: Level, route: Route) => route.order.map((s) => level.waypoints[route.stops[s].waypointId].at)

/** A route's line: long dashes with barbs along the way; dotted alarm where it cannot be walked. */
export function drawRouteLine(pen: Pen, level: Level, route: Route, look: RouteLook): void {
  const places = stopPlaces(level, route)
  if (places.length === 0 || !boxesMeet(boxOf(places, 20), seenBox(pen.view))) return
  const { c, inks } = pen
  const colour = inks.colour[COLOUR_OF[route.kind]]
  const width = look.chosen ? 3 : look.hovered ? 2.8 : 2
  c.lineJoin = c.lineCap = 'round'
  legsOf(route).forEach((leg, i) => {
    const way = look.ways?.[i]
    const line = way?.found ? way.line : [places[leg.from], places[leg.to]]
    if (way && !way.found) {
      drawBlocked(pen, places[leg.from], places[leg.to], way.stopsAt)
      return
    }
    c.setLineDash([])
    c.strokeStyle = inks.colour.sheet
    c.globalAlpha = 0.75
    c.lineWidth = width + 3.5
    c.beginPath()
    traceLine(pen, line)
    c.stroke()
    c.globalAlpha = look.chosen || look.hovered ? 1 : 0.7
    c.strokeStyle = colour
    c.lineWidth = width
    c.setLineDash([11, 7])
    c.beginPath()
    traceLine(pen, line)
    c.stroke()
    c.setLineDash([])
    drawBarbs(pen, line, colour, width, route.travel === 'there-and-back')
    c.globalAlpha = 1
  })
}

function drawBlocked(
  pen: Pen,
  from: readonly number[],
  to: readonly number[],
  stopsAt: readonly number[] | null,
): void {
  const { c, inks } = pen
  c.strokeStyle = inks.colour.alarm
  c.lineWidth = 2.5
  c.setLineDash([0.5, 6])
  c.beginPath()
  traceLine(pen, [from, to])
  c.stroke()
  c.setLineDash([])
  if (!stopsAt) return
  const x = X(pen, stopsAt[0])
  const y = Y(pen, stopsAt[1])
  c.beginPath()
  c.moveTo(x - 5, y - 5)
  c.lineTo(x + 5, y + 5)
  c.moveTo(x - 5, y + 5)
  c.lineTo(x + 5, y - 5)
  c.stroke()
}

/** Barbs point the way of travel: one a third along short legs, more on long ones; both ways for there and back. */
function drawBarbs(
  pen: Pen,
  line: readonly (readonly number[])[],
  colour: string,
  width: number,
  bothWays: boolean,
): void {
  const { c } = pen
  let total = 0
  for (let i = 1; i < line.length; i++)
    total += Math.hypot(X(pen, line[i][0]) - X(pen, line[i - 1][0]), Y(pen, line[i][1]) - Y(pen, line[i - 1][1]))
  if (total < 46) return
  const count = Math.max(1, Math.floor(total / 110))
  c.strokeStyle = colour
  c.lineWidth = width
  for (let k = 0; k < count; k++) {
    let left = (total * (k + 0.5)) / count
    for (let i = 1; i < line.length; i++) {
      const ax = X(pen, line[i - 1][0])
      const ay = Y(pen, line[i - 1][1])
      const dx = X(pen, line[i][0]) - ax
      const dy = Y(pen, line[i][1]) - ay
      const step = Math.hypot(dx, dy)
      if (left > step || step === 0) {
        left -= step
        continue
      }
      const ux = dx / step
      const uy = dy / step
      for (const way of bothWays ? [1, -1] : [1]) {
        const x = ax + ux * (left + (bothWays ? 11 * way : 3))
        const y = ay + uy * (left + (bothWays ? 11 * way : 3))
        c.beginPath()
        c.moveTo(x - (ux * 8 - uy * 4.5) * way, y - (uy * 8 + ux * 4.5) * way)
        c.lineTo(x, y)
        c.lineTo(x - (ux * 8 + uy * 4.5) * way, y - (uy * 8 - ux * 4.5) * way)
        c.stroke()
      }
      break
    }
  }
}

/** Stops as numbered round blazes; a pause as a ring whose arc grows with its length. */
export function drawStops(pen: Pen, level: Level, route: Route, look: RouteLook): void {
  const { c, inks, view } = pen
  const colour = inks.colour[COLOUR_OF[route.kind]]
  const places = stopPlaces(level, route)
  if (places.length === 0 || !boxesMeet(boxOf(places, 20), seenBox(view))) return
  // From afar a route is its line: blazes that would cover one another are left away.
  let length = 0
  for (let i = 1; i < places.length; i++)
    length += Math.hypot(places[i][0] - places[i - 1][0], places[i][1] - places[i - 1][1])
  const crowded = places.length > 2 && (length / (places.length - 1)) * view.scale < 26
  const big = (look.chosen || look.hovered) && !crowded
  const r = crowded && !look.chosen ? 2.5 : big ? STOP_RADIUS_PX : view.scale < 2.2 ? 5 : 7.5
  route.order.forEach((stopId, i) => {
    const stop = route.stops[stopId]
    const x = X(pen, places[i][0])
    const y = Y(pen, places[i][1])
    if (x < -30 || y < -30 || x > view.width + 30 || y > view.height + 30) return
    const chosen = look.chosenStops.has(stopId)
    const pauseS = (stop.pause.minS + stop.pause.maxS) / 2
    if (pauseS > 0 && r > 4) {
      c.strokeStyle = colour
      c.lineWidth = 2.5
      c.beginPath()
      c.arc(x, y, r + 4, -Math.PI / 2, -Math.PI / 2 + 2 * Math.PI * Math.min(1, 0.12 + pauseS / FULL_RING_S))
      c.stroke()
    }
    c.beginPath()
    c.arc(x, y, r, 0, 7)
    c.fillStyle = chosen ? colour : inks.colour.sheet
    c.fill()
    c.strokeStyle = colour
    c.lineWidth = 2.2
    c.stroke()
    if (stop.facingRad !== null && r > 4) {
      const fx = Math.cos(stop.facingRad)
      const fy = -Math.sin(stop.facingRad)
      c.beginPath()
      c.moveTo(x + fx * (r + 7), y + fy * (r + 7))
      c.lineTo(x + fx * (r + 2) - fy * 4, y + fy * (r + 2) + fx * 4)
      c.lineTo(x + fx * (r + 2) + fy * 4, y + fy * (r + 2) - fx * 4)
      c.closePath()
      c.fillStyle = colour
      c.fill()
    }
    if (r >= 7)
      plainText(pen, String(i + 1), x, y, chosen ? inks.colour['on-fill'] : inks.colour.ink, true, big ? 12 : 10)
  })
}
