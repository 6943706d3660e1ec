import { besideLine, boxesMeet, boxOf, type Box2 } from '@tidytrail/core/geometry'
import type { Level, Route, RouteKind } from '@tidytrail/core/level'
import { courseOf, legsOf } from '@tidytrail/core/network'
import type { PathAnswer } from '@tidytrail/core/reach'
import type { InkName } from '../../map/inks'
import { inMetres, plainText, traceLine, X, Y, type Pen } from '../../map/pen'
import { seenBox } from '../../map/viewport'

/** A pause this long fills its ring, seconds. */
const FULL_RING_S = 20
export const STOP_RADIUS_PX = 10
/** Cross ticks of a circuit, metres apart. */
const TICK_M = 50
/** So small on the sheet, in pixels a metre, routes are drawn without their stops. */
const FAR_SCALE = 0.8

export interface RouteLook {
  readonly chosen: boolean
  readonly hovered: boolean
  readonly chosenStops: ReadonlySet<string>
  readonly ways: readonly PathAnswer[] | undefined
  /** How far to the left each leg is drawn, pixels; none when it shares no leg. */
  readonly shifts: readonly number[] | undefined
}

const COLOUR_OF: Record<RouteKind, InkName> = {
  patrol: 'rust',
  lane: 'lake',
  circuit: 'plum',
  mission: 'ochre',
  network: 'pine',
}
const DASHES: Record<string, number[]> = { unbroken: [], dashes: [11, 7], dots: [0.5, 7], 'dash-dot': [11, 6, 0.5, 6] }
const PATTERN_OF: Record<RouteKind, string> = {
  patrol: 'dashes',
  lane: 'unbroken',
  circuit: 'unbroken',
  mission: 'dots',
  network: 'unbroken',
}

export const inkOf = (route: Pick<Route, 'kind' | 'colour'>): InkName => route.colour ?? COLOUR_OF[route.kind]
const dashOf = (route: Route) => DASHES[route.pattern ?? PATTERN_OF[route.kind]]

const stopPlaces = (level: Level, route: Route) => route.order.map((s) => level.waypoints[route.stops[s].waypointId].at)

interface Extent {
  /** All waypoints as they were when this was worked out. */
  waypoints: Level['waypoints']
  readonly places: readonly (readonly number[])[]
  readonly box: Box2
  /** Mean distance from stop to stop, metres. */
  readonly meanM: number
}
const extents = new WeakMap<Route, Extent>()

/** Where a route lies, kept until it or a place of it changes. */
function extentOf(level: Level, route: Route): Extent {
  const known = extents.get(route)
  if (known?.waypoints === level.waypoints) return known
  const places = stopPlaces(level, route)
  if (known && known.places.every((p, i) => p === places[i])) {
    known.waypoints = level.waypoints
    return known
  }
  let length = 0
  for (let i = 1; i < places.length; i++)
    length += Math.hypot(places[i][0] - places[i - 1][0], places[i][1] - places[i - 1][1])
  const extent = {
    waypoints: level.waypoints,
    places,
    box: boxOf(places, 20),
    meanM: length / Math.max(1, places.length - 1),
  }
  extents.set(route, extent)
  return extent
}

/** Is the route so small on the sheet that it is drawn as a plain line? Blazes would cover one another. */
const crowded = (pen: Pen, extent: Extent) => extent.places.length > 2 && extent.meanM * pen.view.scale < 26

/** Draws routes as lines; those that are small on the sheet all in one stroke for each colour. */
export function drawRouteLines(
  pen: Pen,
  level: Level,
  routes: readonly (readonly [string, Route])[],
  looks: readonly RouteLook[],
): void {
  const seen = seenBox(pen.view)
  const plain = new Map<InkName, Path2D>()
  const near: number[] = []
  routes.forEach(([, route], i) => {
    if (route.order.length === 0) return
    const extent = extentOf(level, route)
    if (!boxesMeet(extent.box, seen)) return
    const look = looks[i]
    if (look.chosen || look.hovered || !crowded(pen, extent) || look.ways?.some((w) => !w.found)) {
      near.push(i)
      return
    }
    const ink = inkOf(route)
    let path = plain.get(ink)
    if (!path) plain.set(ink, (path = new Path2D()))
    path.addPath(plainPath(level, route, look.ways))
  })
  for (const [ink, path] of plain) {
    inMetres(pen, (metre) => {
      pen.c.strokeStyle = pen.inks.colour[ink]
      pen.c.globalAlpha = 0.8
      pen.c.lineWidth = 1.6 * metre
      pen.c.stroke(path)
    })
  }
  pen.c.globalAlpha = 1
  for (const i of near) drawRouteLine(pen, level, routes[i][1], looks[i])
}

const plainPaths = new WeakMap<Route, { places: unknown; ways: unknown; path: Path2D }>()

function plainPath(level: Level, route: Route, ways: readonly PathAnswer[] | undefined): Path2D {
  const { places } = extentOf(level, route)
  const known = plainPaths.get(route)
  if (known && known.places === places && known.ways === ways) return known.path
  const path = new Path2D()
  courseOf(route, level.waypoints).forEach((line, i) => {
    const way = ways?.[i]
    ;(way?.found ? way.line : line).forEach(([x, y], k) => (k === 0 ? path.moveTo(x, y) : path.lineTo(x, y)))
  })
  plainPaths.set(route, { places, ways, path })
  return path
}

function drawRouteLine(pen: Pen, level: Level, route: Route, look: RouteLook): void {
  const { c, inks, view } = pen
  const { places } = extentOf(level, route)
  const colour = inks.colour[inkOf(route)]
  const width = look.chosen ? 3 : look.hovered ? 2.8 : 2
  const course = courseOf(route, level.waypoints)
  const seen = seenBox(view, 40)
  c.lineJoin = c.lineCap = 'round'
  if (route.widthM > 0 && route.kind === 'circuit') drawBand(pen, route, course, look, colour)
  legsOf(route).forEach((leg, i) => {
    const way = look.ways?.[i]
    const line = way?.found ? way.line : course[i]
    if (!boxesMeet(boxOf(line), seen)) return
    if (way && !way.found) {
      drawBlocked(pen, places[leg.from], places[leg.to], way.stopsAt)
      return
    }
    const onScreen = line.map((p): [number, number] => [X(pen, p[0]), Y(pen, p[1])])
    const shift = look.shifts?.[i] ?? 0
    // On the screen y points down, so left is the other side.
    const drawn = shift === 0 ? onScreen : besideLine(onScreen, -shift)
    stroke(c, drawn, inks.colour.sheet, width + 3.5, 0.75)
    const alpha = look.chosen || look.hovered ? 1 : 0.75
    if (route.kind === 'lane') {
      const half = Math.max(2.2, (route.widthM * view.scale) / 2)
      for (const side of [half, -half]) stroke(c, besideLine(drawn, side), colour, look.chosen ? 2 : 1.3, alpha)
      drawChevrons(c, drawn, colour, Math.min(6, half + 1.5), alpha)
    } else {
      c.setLineDash(dashOf(route))
      stroke(c, drawn, colour, route.kind === 'mission' ? width + 1.5 : width, alpha)
      c.setLineDash([])
      c.globalAlpha = alpha
      drawBarbs(c, drawn, colour, width, route.travel === 'there-and-back')
    }
    c.globalAlpha = 1
  })
}

function stroke(
  c: CanvasRenderingContext2D,
  line: readonly (readonly number[])[],
  colour: string,
  width: number,
  alpha: number,
) {
  c.globalAlpha = alpha
  c.strokeStyle = colour
  c.lineWidth = width
  c.beginPath()
  line.forEach(([x, y], i) => (i === 0 ? c.moveTo(x, y) : c.lineTo(x, y)))
  c.stroke()
}

/** A circuit's corridor: a band as wide as it is, with fine cross ticks. */
function drawBand(
  pen: Pen,
  route: Route,
  course: readonly (readonly (readonly number[])[])[],
  look: RouteLook,
  colour: string,
): void {
  const { c } = pen
  c.globalAlpha = look.chosen ? 0.26 : 0.16
  c.strokeStyle = colour
  c.lineWidth = Math.max(3, route.widthM * pen.view.scale)
  c.lineCap = 'butt'
  c.beginPath()
  const whole = course.flatMap((line, i) => (i === 0 ? line : line.slice(1)))
  traceLine(pen, whole, route.travel === 'round')
  c.stroke()
  c.globalAlpha = 0.8
  c.lineWidth = 1
  const half = Math.max(3, route.widthM * pen.view.scale) / 2
  let next = TICK_M
  let done = 0
  c.beginPath()
  for (let i = 1; i < whole.length; i++) {
    const [ax, ay] = whole[i - 1]
    const [bx, by] = whole[i]
    const length = Math.hypot(bx - ax, by - ay)
    while (length > 0 && done + length >= next) {
      const t = (next - done) / length
      const x = X(pen, ax + (bx - ax) * t)
      const y = Y(pen, ay + (by - ay) * t)
      const nx = ((by - ay) / length) * half
      const ny = ((bx - ax) / length) * half
      c.moveTo(x - nx, y - ny)
      c.lineTo(x + nx, y + ny)
      next += TICK_M
    }
    done += length
  }
  c.stroke()
  c.globalAlpha = 1
  c.lineCap = 'round'
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

/** Calls for places along a line on the screen, evenly: one on short lines, more on long ones. */
function along(
  line: readonly (readonly number[])[],
  everyPx: number,
  draw: (x: number, y: number, ux: number, uy: number) => void,
): void {
  let total = 0
  for (let i = 1; i < line.length; i++) total += Math.hypot(line[i][0] - line[i - 1][0], line[i][1] - line[i - 1][1])
  if (total < 46) return
  const count = Math.max(1, Math.floor(total / everyPx))
  for (let k = 0; k < count; k++) {
    let left = (total * (k + 0.5)) / count
    for (let i = 1; i < line.length; i++) {
      const dx = line[i][0] - line[i - 1][0]
      const dy = line[i][1] - line[i - 1][1]
      const step = Math.hypot(dx, dy)
      if (left > step || step === 0) {
        left -= step
        continue
      }
      const ux = dx / step
      const uy = dy / step
      draw(line[i - 1][0] + ux * left, line[i - 1][1] + uy * left, ux, uy)
      break
    }
  }
}

/** Barbs point the way of travel; both ways for there and back. */
function drawBarbs(
  c: CanvasRenderingContext2D,
  line: readonly (readonly number[])[],
  colour: string,
  width: number,
  bothWays: boolean,
): void {
  c.strokeStyle = colour
  c.lineWidth = width
  along(line, 110, (ax, ay, ux, uy) => {
    for (const way of bothWays ? [1, -1] : [1]) {
      const x = ax + ux * (bothWays ? 11 * way : 3)
      const y = ay + uy * (bothWays ? 11 * way : 3)
      c.beginPath()
      c.moveTo(x - (ux * 8 - uy * 4.5) * way, y - (uy * 8 + ux * 4.5) * way)
      c.lineTo(x, y)
      c.lineTo(x - (ux * 8 + uy * 4.5) * way, y - (uy * 8 - ux * 4.5) * way)
      c.stroke()
    }
  })
}

function drawChevrons(
  c: CanvasRenderingContext2D,
  line: readonly (readonly number[])[],
  colour: string,
  size: number,
  alpha: number,
): void {
  c.globalAlpha = alpha
  c.strokeStyle = colour
  c.lineWidth = 1.6
  along(line, 34, (x, y, ux, uy) => {
    c.beginPath()
    c.moveTo(x - ux * size - uy * size, y - uy * size + ux * size)
    c.lineTo(x, y)
    c.lineTo(x - ux * size + uy * size, y - uy * size - ux * size)
    c.stroke()
  })
}

/** Stops as numbered blazes (pennants on a mission), the first with a start mark; a pause as a ring that grows with it. */
export function drawStops(pen: Pen, level: Level, route: Route, look: RouteLook): void {
  const { c, inks, view } = pen
  const colour = inks.colour[inkOf(route)]
  if (route.order.length === 0) return
  const extent = extentOf(level, route)
  if (!boxesMeet(extent.box, seenBox(view))) return
  const { places } = extent
  const isCrowded = crowded(pen, extent)
  // From afar a route is its line.
  if (!look.chosen && !look.hovered && (view.scale < FAR_SCALE || (isCrowded && extent.meanM * view.scale < 9))) return
  const big = (look.chosen || look.hovered) && !isCrowded
  const lane = route.kind === 'lane' && !look.chosen
  const r = (isCrowded || lane) && !look.chosen ? 2.5 : big ? STOP_RADIUS_PX : view.scale < 2.2 ? 5 : 7.5
  const dot = r < 7 && !look.chosen && route.kind !== 'mission' ? dotOf(pen, colour, r) : undefined
  route.order.forEach((stopId, i) => {
    const stop = route.stops[stopId]
    const x = X(pen, places[i][0])
    const y = Y(pen, places[i][1])
    if (x < -30 || y < -30 || x > view.width + 30 || y > view.height + 30) return
    if (
      dot &&
      i > 0 &&
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
      return
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
    if (route.kind === 'mission' && r >= 5) pennant(c, x, y, r)
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
  })
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

/** A little flag whose foot is the place and whose cloth holds the number. */
function pennant(c: CanvasRenderingContext2D, x: number, y: number, r: number): void {
  c.moveTo(x - r, y - r)
  c.lineTo(x + r * 1.5, y)
  c.lineTo(x - r, y + r)
  c.closePath()
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
