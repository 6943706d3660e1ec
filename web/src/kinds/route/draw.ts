import { besideLine, boxesMeet, boxOf } from '@tidytrail/core/geometry'
import type { Level, Route } from '@tidytrail/core/level'
import { courseOf, legsOf } from '@tidytrail/core/network'
import type { PathAnswer } from '@tidytrail/core/reach'
import type { InkName } from '../../map/inks'
import { inMetres, traceLine, X, Y, type Pen } from '../../map/pen'
import { seenBox } from '../../map/viewport'
import { crowded, extentOf, inkOf, type RouteLook } from './look'
import { drawChanging } from './draw-changing'
import { drawHalts } from './draw-halts'
import { drawCrossings } from './draw-crossings'
import { ROUTE_STYLES } from './styles/list'
import { stroke } from './styles/style'

/** Draws routes as lines; those that are small on the sheet all in one stroke for each colour. */
export function* drawRouteLines(
  pen: Pen,
  level: Level,
  routes: readonly (readonly [string, Route])[],
  looks: readonly RouteLook[],
): Generator<void, void> {
  const seen = seenBox(pen.view)
  const near: number[] = []
  const bundle = new Bundle(pen)
  for (const [i, [, route]] of routes.entries()) {
    if (route.order.length === 0) continue
    const extent = extentOf(level, route)
    if (!boxesMeet(extent.box, seen)) continue
    const look = looks[i]
    if (look.chosen || look.hovered || !crowded(pen, extent, look) || look.paths?.some((w) => !w.found)) {
      near.push(i)
      continue
    }
    if (bundle.add(inkOf(route), plainPath(level, route, look.paths), route.order.length)) yield
  }
  bundle.strokeAll()
  for (const i of near) {
    yield
    yield* drawRouteLine(pen, level, routes[i][1], looks[i])
  }
  const lanes = near.filter((i) => routes[i][1].kind === 'lane').map((i) => routes[i][0])
  for (const id of lanes) {
    drawChanging(pen, level, id)
    drawHalts(pen, level, id)
  }
  if (lanes.length > 0) drawCrossings(pen, level, new Set(lanes))
}

/** So many stops are drawn in one stroke at most. */
const MOST_AT_ONCE = 400

/** Plain lines of routes, stroked together. */
class Bundle {
  private readonly paths = new Map<InkName, Path2D>()
  private count = 0

  constructor(private readonly pen: Pen) {}

  /** Adds a line; true when so many had come together that they were drawn. */
  add(ink: InkName, line: Path2D, count: number): boolean {
    let path = this.paths.get(ink)
    if (!path) this.paths.set(ink, (path = new Path2D()))
    path.addPath(line)
    this.count += count
    if (this.count < MOST_AT_ONCE) return false
    this.strokeAll()
    return true
  }

  strokeAll(): void {
    const { c, inks } = this.pen
    for (const [ink, path] of this.paths)
      inMetres(this.pen, (metre) => {
        c.strokeStyle = inks.colour[ink]
        c.globalAlpha = 0.8
        c.lineWidth = 1.6 * metre
        c.stroke(path)
      })
    c.globalAlpha = 1
    this.paths.clear()
    this.count = 0
  }
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

/** Legs are drawn so many at a time. */
const LEGS_AT_ONCE = 40

function* drawRouteLine(pen: Pen, level: Level, route: Route, look: RouteLook): Generator<void, void> {
  const { c, inks, view } = pen
  const { places } = extentOf(level, route)
  const colour = inks.colour[inkOf(route)]
  const width = look.chosen ? 3 : look.hovered ? 2.8 : 2
  const course = courseOf(route, level.waypoints)
  const seen = seenBox(view, 40)
  c.lineJoin = c.lineCap = 'round'
  const style = ROUTE_STYLES[route.kind]
  style.band?.(pen, route, course, look.chosen, colour)
  for (const [i, leg] of legsOf(route).entries()) {
    if (i % LEGS_AT_ONCE === LEGS_AT_ONCE - 1) yield
    const way = look.paths?.[i]
    const line = way?.found ? way.line : course[i]
    if (!boxesMeet(boxOf(line), seen)) continue
    if (way && !way.found) {
      drawBlocked(pen, places[leg.from], places[leg.to], way.stopsAt)
      continue
    }
    c.lineJoin = c.lineCap = 'round'
    const onScreen = line.map((p): [number, number] => [X(pen, p[0]), Y(pen, p[1])])
    const shift = look.shifts?.[i] ?? 0
    // On the screen y points down, so left is the other side.
    const drawn = shift === 0 ? onScreen : besideLine(onScreen, -shift)
    stroke(c, drawn, inks.colour.sheet, width + 3.5, 0.75)
    const alpha = look.chosen || look.hovered ? 1 : 0.75
    style.leg({ pen, route, line: drawn, colour, width, alpha, chosen: look.chosen })
    c.globalAlpha = 1
  }
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
