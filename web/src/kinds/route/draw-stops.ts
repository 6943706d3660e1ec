import { boxesMeet } from '@tidytrail/core/geometry'
import type { Level, Route } from '@tidytrail/core/level'
import { plainText, X, Y, type Pen } from '../../map/pen'
import { seenBox } from '../../map/viewport'
import { crowded, extentOf, inkOf, STOP_RADIUS_PX, type RouteLook } from './look'
import { ROUTE_STYLES } from './styles/list'

/** A pause this long fills its ring, seconds. */
const FULL_RING_S = 20
/** Stops are drawn so many at a time. */
const STOPS_AT_ONCE = 60
/** So small on the sheet, in pixels a metre, routes are drawn without their stops. */
const FAR_SCALE = 0.8

/** Stops as numbered blazes (pennants on a mission), the first with a start mark; a pause as a ring that grows with it. */
export function* drawStops(pen: Pen, level: Level, route: Route, look: RouteLook): Generator<void, void> {
  const { c, inks, view } = pen
  const colour = inks.colour[inkOf(route)]
  if (route.order.length === 0) return
  const extent = extentOf(level, route)
  if (!boxesMeet(extent.box, seenBox(view))) return
  const { places } = extent
  const { stop: shape } = ROUTE_STYLES[route.kind]
  const isCrowded = crowded(pen, extent, look)
  // From afar a route is its line.
  if (!look.chosen && !look.hovered && (view.scale < FAR_SCALE || (isCrowded && extent.meanM * view.scale < 9))) return
  const big = (look.chosen || look.hovered) && !isCrowded
  const lane = route.kind === 'lane' && !look.chosen
  const r = (isCrowded || lane) && !look.chosen ? 2.5 : big ? STOP_RADIUS_PX : view.scale < 2.2 ? 5 : 7.5
  const dot = r < 7 && !look.chosen && !shape ? dotOf(pen, colour, r) : undefined
  for (const [i, stopId] of route.order.entries()) {
    if (i % STOPS_AT_ONCE === STOPS_AT_ONCE - 1) yield
    const stop = route.stops[stopId]
    const x = X(pen, places[i][0])
    const y = Y(pen, places[i][1])
    if (x < -30 || y < -30 || x > view.width + 30 || y > view.height + 30) continue
    if (
      dot &&
      (i > 0 || r < 5) &&
      !look.chosenStops.has(stopId) &&
      (r <= 4 || (stop.pause.maxS === 0 && stop.facingRad === null && !stop.look))
    ) {
      c.drawImage(
        dot,
        x - dot.width / pen.ratio / 2,
        y - dot.height / pen.ratio / 2,
        dot.width / pen.ratio,
        dot.height / pen.ratio,
      )
      continue
    }
    const chosen = look.chosenStops.has(stopId)
    const pauseS = (stop.pause.minS + stop.pause.maxS) / 2
    if (pauseS > 0 && r > 4) {
      c.strokeStyle = colour
      c.lineWidth = 2.5
      c.globalAlpha = stop.pauseShare < 1 ? 0.55 : 1
      c.beginPath()
      c.arc(x, y, r + 4, -Math.PI / 2, -Math.PI / 2 + 2 * Math.PI * Math.min(1, 0.12 + pauseS / FULL_RING_S))
      c.stroke()
      c.globalAlpha = 1
    }
    if (stop.look && r > 4) drawLook(c, x, y, r + 16, stop.look, colour)
    c.fillStyle = chosen ? colour : inks.colour.sheet
    c.strokeStyle = colour
    c.lineWidth = 2.2
    c.beginPath()
    if (shape && r >= 5) shape(c, x, y, r)
    else if (stop.sharp && route.curve === 'smooth') c.rect(x - r * 0.85, y - r * 0.85, r * 1.7, r * 1.7)
    else c.arc(x, y, r, 0, 7)
    c.fill()
    c.stroke()
    if (i === 0 && r >= 5 && places.length > 1)
      startMark(c, x, y, r, X(pen, places[1][0]), Y(pen, places[1][1]), colour)
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
  }
}

const dots = new Map<string, HTMLCanvasElement>()

/** A small stop as a picture: thousands of them are copied much faster than drawn. */
function dotOf({ inks, ratio }: Pen, colour: string, r: number): HTMLCanvasElement {
  const key = `${colour} ${inks.colour.sheet} ${r} ${ratio}`
  let dot = dots.get(key)
  if (dot) return dot
  const half = r + 2
  dot = document.createElement('canvas')
  dot.width = dot.height = Math.ceil(2 * half * ratio)
  const c = dot.getContext('2d')!
  c.scale(ratio, ratio)
  c.beginPath()
  c.arc(half, half, r, 0, 7)
  c.fillStyle = inks.colour.sheet
  c.fill()
  c.strokeStyle = colour
  c.lineWidth = 2.2
  c.stroke()
  dots.set(key, dot)
  return dot
}

/** Two short strokes across the way behind the first stop: here it begins. */
function startMark(
  c: CanvasRenderingContext2D,
  x: number,
  y: number,
  r: number,
  toX: number,
  toY: number,
  colour: string,
): void {
  const length = Math.hypot(toX - x, toY - y) || 1
  const ux = (toX - x) / length
  const uy = (toY - y) / length
  c.strokeStyle = colour
  c.lineWidth = 2.4
  c.beginPath()
  for (const back of [r + 4.5, r + 8.5]) {
    c.moveTo(x - ux * back - uy * 6, y - uy * back + ux * 6)
    c.lineTo(x - ux * back + uy * 6, y - uy * back - ux * 6)
  }
  c.stroke()
}

function drawLook(
  c: CanvasRenderingContext2D,
  x: number,
  y: number,
  r: number,
  look: { fromRad: number; toRad: number },
  colour: string,
) {
  c.globalAlpha = 0.18
  c.fillStyle = colour
  c.beginPath()
  c.moveTo(x, y)
  c.arc(x, y, r, -look.toRad, -look.fromRad)
  c.closePath()
  c.fill()
  c.globalAlpha = 1
}
