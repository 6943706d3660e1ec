import { besideLine, boxesMeet, boxOf } from '@tidytrail/core/geometry'
import type { Level, Route } from '@tidytrail/core/level'
import { courseOf, legsOf } from '@tidytrail/core/network'
import type { PathAnswer } from '@tidytrail/core/reach'
import type { InkName } from '../../map/inks'
import { inMetres, traceLine, X, Y, type Pen } from '../../map/pen'
import { seenBox } from '../../map/viewport'
import { crowded, extentOf, inkOf, type RouteLook } from './look'
import { ROUTE_STYLES } from './styles/list'
import { stroke } from './styles/style'

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
    if (look.chosen || look.hovered || !crowded(pen, extent, look) || look.paths?.some((w) => !w.found)) {
      near.push(i)
      return
    }
    const ink = inkOf(route)
    let path = plain.get(ink)
    if (!path) plain.set(ink, (path = new Path2D()))
    path.addPath(plainPath(level, route, look.paths))
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

const plainPaths = new WeakMap<Route, { places: unknown; paths: unknown; path: Path2D }>()

function plainPath(level: Level, route: Route, paths: readonly PathAnswer[] | undefined): Path2D {
  const { places } = extentOf(level, route)
  const known = plainPaths.get(route)
  if (known && known.places === places && known.paths === paths) return known.path
  const path = new Path2D()
  courseOf(route, level.waypoints).forEach((line, i) => {
    const way = paths?.[i]
    ;(way?.found ? way.line : line).forEach(([x, y], k) => (k === 0 ? path.moveTo(x, y) : path.lineTo(x, y)))
  })
  plainPaths.set(route, { places, paths, path })
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
  const style = ROUTE_STYLES[route.kind]
  style.band?.(pen, route, course, look.chosen, colour)
  legsOf(route).forEach((leg, i) => {
    const way = look.paths?.[i]
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
    style.leg({ pen, route, line: drawn, colour, width, alpha, chosen: look.chosen })
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
