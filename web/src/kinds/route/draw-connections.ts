import type { Painter } from '../../map/layer'
import { useSurveyStore } from '../../stores/survey'
import type { Level } from '@tidytrail/core/level'
import { contours } from 'd3-contour'
import { seconds } from '../../ui/figures'
import type { Connection } from '../../workers/surveyor.protocol'
import { inMetres, label, traceLine, X, Y, type Pen } from '../../map/pen'

/** At most about so many rings. */
const RINGS = 7
const STEPS_S = [1, 2, 5, 10, 15, 20, 30, 60, 120, 300, 600, 1200, 1800, 3600]

interface Rings {
  readonly of: Connection
  readonly lines: readonly { readonly s: number; readonly path: Path2D; readonly at: readonly number[] | undefined }[]
}
let kept: Rings | undefined

/** Contour lines of travel time over the plain, worked out once for each answer. */
function isochronesOf(connection: Connection, { extent }: Level['settings']): Rings {
  if (kept?.of === connection) return kept
  const { field } = connection
  if (!field) return (kept = { of: connection, lines: [] })
  const { columns, rows, cellM, originX, originY } = field
  const known = field.seconds.filter((s) => s < Infinity)
  const most = known.reduce((a, b) => Math.max(a, b), 0)
  const step = STEPS_S.find((s) => most / s <= RINGS) ?? Math.ceil(most / RINGS)
  // What is out of reach counts as far away, so that rings close round what is in reach.
  const values = Array.from(field.seconds, (s) => -(s < Infinity ? s : most * 4 + 1000))
  const thresholds: number[] = []
  for (let s = step; s < most; s += step) thresholds.push(-s)
  const generator = contours().size([columns, rows]).smooth(true)
  /** Is a place of the grid next to what nobody gets to? There a line would only follow the rim. */
  const onRim = (gx: number, gy: number) => {
    const [x, y] = [originX + gx * cellM, originY + gy * cellM]
    if (x < extent.minX || x > extent.maxX || y < extent.minY || y > extent.maxY) return true
    for (const dx of [-1, 1]) {
      for (const dy of [-1, 1]) {
        const [i, j] = [Math.floor(gx + 0.8 * dx), Math.floor(gy + 0.8 * dy)]
        if (i < 0 || j < 0 || i >= columns || j >= rows || field.seconds[j * columns + i] === Infinity) return true
      }
    }
    return false
  }
  const lines = thresholds.map((t) => {
    const path = new Path2D()
    let at: number[] | undefined
    for (const polygon of generator.contour(values, t).coordinates) {
      for (const ring of polygon) {
        let down = false
        for (const [gx, gy] of ring) {
          if (onRim(gx, gy)) {
            down = false
            continue
          }
          const x = originX + gx * cellM
          const y = originY + gy * cellM
          if (down) path.lineTo(x, y)
          else path.moveTo(x, y)
          down = true
          if (!at || y > at[1]) at = [x, y]
        }
      }
    }
    return { s: -t, path, at }
  })
  return (kept = { of: connection, lines })
}

/** What is connected to a waypoint: rings of travel time, weak spots, and the ways to another. */
export function drawConnections(pen: Pen, level: Level, connection: Connection): void {
  const { c, inks } = pen
  const { lines } = isochronesOf(connection, level.settings)
  for (const { path } of lines) {
    inMetres(pen, (metre) => {
      c.strokeStyle = inks.colour.lake
      c.globalAlpha = 0.85
      c.lineWidth = 1.4 * metre
      c.setLineDash([5 * metre, 3 * metre])
      c.stroke(path)
      c.setLineDash([])
    })
  }
  c.globalAlpha = 1
  const place = (id: string) => level.waypoints[id]?.at
  // Bridges are struck through, cut nodes ringed twice, dead ends barred.
  c.strokeStyle = inks.colour.alarm
  c.lineWidth = 2
  for (const edge of connection.bridges) {
    const link = edge.kind === 'link' ? level.links[edge.id] : undefined
    const route = edge.kind === 'leg' ? level.routes[edge.routeId] : undefined
    const ends = link
      ? [place(link.fromId), place(link.toId)]
      : route
        ? [0, 1].map((k) =>
            place(route.stops[route.order[(edge.kind === 'leg' ? edge.leg + k : 0) % route.order.length]].waypointId),
          )
        : []
    if (!ends[0] || !ends[1]) continue
    const [ax, ay, bx, by] = [X(pen, ends[0][0]), Y(pen, ends[0][1]), X(pen, ends[1][0]), Y(pen, ends[1][1])]
    const length = Math.hypot(bx - ax, by - ay)
    if (length < 22) continue
    const [mx, my] = [(ax + bx) / 2, (ay + by) / 2]
    const [nx, ny] = [(-(by - ay) / length) * 6, ((bx - ax) / length) * 6]
    c.beginPath()
    c.moveTo(mx - nx, my - ny)
    c.lineTo(mx + nx, my + ny)
    c.stroke()
  }
  for (const id of connection.cutNodes) {
    const at = place(id)
    if (!at) continue
    c.beginPath()
    c.arc(X(pen, at[0]), Y(pen, at[1]), 13, 0, 7)
    c.stroke()
  }
  for (const id of connection.deadEnds) {
    const at = place(id)
    if (!at) continue
    c.beginPath()
    c.rect(X(pen, at[0]) - 11, Y(pen, at[1]) - 11, 22, 22)
    c.stroke()
  }
  if (connection.overReach) {
    c.strokeStyle = inks.colour.pine
    c.lineWidth = 3
    c.setLineDash([2, 6])
    c.beginPath()
    traceLine(pen, connection.overReach.line)
    c.stroke()
    c.setLineDash([])
  }
  if (connection.overGraph) {
    c.strokeStyle = inks.colour.lake
    c.lineWidth = 5
    c.globalAlpha = 0.55
    for (const line of connection.overGraph.lines) {
      c.beginPath()
      traceLine(pen, line)
      c.stroke()
    }
    c.globalAlpha = 1
  }
  for (const [id, word] of [
    [connection.fromId, 'from here'],
    [connection.toId, 'to here'],
  ] as const) {
    const at = id && place(id)
    if (!at) continue
    c.strokeStyle = inks.colour.lake
    c.lineWidth = 3
    c.beginPath()
    c.arc(X(pen, at[0]), Y(pen, at[1]), 15, 0, 7)
    c.stroke()
    label(pen, word, X(pen, at[0]), Y(pen, at[1]) + 26, { bold: true, size: 11 })
  }
  for (const { s, at } of lines) if (at) label(pen, seconds(s), X(pen, at[0]), Y(pen, at[1]), { size: 11 })
}

/** Draws what the survey has found between two waypoints. */
export const connectionPainter: Painter = {
  on: 'over',
  order: 62,
  draw(pen, { level }) {
    const { connection } = useSurveyStore()
    if (connection) drawConnections(pen, level, connection)
  },
}
