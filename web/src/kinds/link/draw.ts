import { forksOf, sharesOf } from '@tidytrail/core/network'
import { boxHolds, type Point3 } from '@tidytrail/core/geometry'
import { laneNet } from '@tidytrail/core/traffic'
import type { Level } from '@tidytrail/core/level'
import { plainText, traceLine, X, Y, type Pen } from '../../map/pen'
import { seenBox } from '../../map/viewport'
import { inkOf } from '../route/look'

/** Half the height of a node's lozenge, pixels. */
export const NODE_PX = 6.5

const usedKept = new WeakMap<Level['routes'], { links: Level['links']; used: ReadonlySet<string> }>()

/** Waypoints that a stop or a link uses. */
export function usedWaypoints(level: Level): ReadonlySet<string> {
  const kept = usedKept.get(level.routes)
  if (kept && kept.links === level.links) return kept.used
  const used = new Set<string>()
  for (const route of Object.values(level.routes))
    for (const stop of Object.values(route.stops)) used.add(stop.waypointId)
  for (const link of Object.values(level.links)) used.add(link.fromId).add(link.toId)
  usedKept.set(level.routes, { links: level.links, used })
  return used
}

const looseKept = new WeakMap<Level['waypoints'], { used: ReadonlySet<string>; loose: readonly string[] }>()

/** Waypoints that nothing uses. */
export function looseWaypoints(level: Level): readonly string[] {
  const used = usedWaypoints(level)
  const kept = looseKept.get(level.waypoints)
  if (kept?.used === used) return kept.loose
  const loose: string[] = []
  for (const id in level.waypoints) if (!used.has(id)) loose.push(id)
  looseKept.set(level.waypoints, { used, loose })
  return loose
}

/** Links as thin lines; one that leads one way carries a half barb, one with a share a little signpost. */
/** @param whole all of the level, of which only some may be drawn */
export function drawLinks(
  pen: Pen,
  level: Level,
  whole: Level,
  chosen: ReadonlySet<string>,
  hovered: string | undefined,
): void {
  const ids = Object.keys(level.links)
  if (ids.length === 0) return
  const { c, inks, view } = pen
  const seen = seenBox(view, 40)
  const hiddenIds = new Set(Object.values(level.routes).flatMap((r) => (r.hidden ? r.linkIds : [])))
  const path = new Path2D()
  const marks: { id: string; ax: number; ay: number; bx: number; by: number }[] = []
  const forks = forksOf(level)
  const { moves } = laneNet(whole)
  const turning: { id: string; line: readonly Point3[] }[] = []
  for (const id of ids) {
    if (hiddenIds.has(id)) continue
    const { fromId, toId, twoWay } = level.links[id]
    const a = level.waypoints[fromId].at
    const b = level.waypoints[toId].at
    if (Math.max(a[0], b[0]) < seen.minX || Math.min(a[0], b[0]) > seen.maxX) continue
    if (Math.max(a[1], b[1]) < seen.minY || Math.min(a[1], b[1]) > seen.maxY) continue
    const move = moves.get(id)
    if (move && !twoWay) {
      turning.push({ id, line: move.line.places })
      continue
    }
    const [ax, ay, bx, by] = [X(pen, a[0]), Y(pen, a[1]), X(pen, b[0]), Y(pen, b[1])]
    if (chosen.has(id) || hovered === id) {
      c.strokeStyle = inks.colour.pine
      c.lineWidth = 4
      c.beginPath()
      c.moveTo(ax, ay)
      c.lineTo(bx, by)
      c.stroke()
    } else {
      path.moveTo(ax, ay)
      path.lineTo(bx, by)
    }
    if (!twoWay) marks.push({ id, ax, ay, bx, by })
  }
  c.strokeStyle = inks.colour.pine
  c.lineWidth = 1.4
  c.globalAlpha = 0.85
  c.stroke(path)
  c.globalAlpha = 1
  drawTurning(pen, turning, level.links, forks, chosen, hovered)
  for (const { id, ax, ay, bx, by } of marks) {
    const length = Math.hypot(bx - ax, by - ay)
    if (length < 24) continue
    const ux = (bx - ax) / length
    const uy = (by - ay) / length
    const link = level.links[id]
    if (!link.twoWay) {
      const x = ax + (bx - ax) * 0.6
      const y = ay + (by - ay) * 0.6
      c.lineWidth = 2
      c.beginPath()
      c.moveTo(x - ux * 10 - uy * 6, y - uy * 10 + ux * 6)
      c.lineTo(x, y)
      c.stroke()
    }
    const ways = link.twoWay ? [] : (forks.get(link.fromId) ?? [])
    const total = sharesOf(ways)
    if (ways.length > 1 && total > 0 && length > 44) {
      const text = `${Math.round((100 * link.share) / total)} %`
      drawShare(pen, text, ax + ux * Math.min(34, length * 0.35), ay + uy * Math.min(34, length * 0.35))
      c.strokeStyle = inks.colour.pine
    }
  }
}

/** The part of a fork a link takes. */
function drawShare(pen: Pen, text: string, x: number, y: number): void {
  const { c, inks } = pen
  c.fillStyle = inks.colour.sheet
  c.strokeStyle = inks.colour.lake
  c.lineWidth = 1.2
  c.beginPath()
  c.rect(x - 15, y - 8, 30, 16)
  c.fill()
  c.stroke()
  plainText(pen, text, x, y, inks.colour.ink, true, 10.5)
}

/** Ways from one lane into another: a fine line with a barb where it comes in. */
function drawTurning(
  pen: Pen,
  ways: readonly { id: string; line: readonly Point3[] }[],
  links: Level['links'],
  forks: ReturnType<typeof forksOf>,
  chosen: ReadonlySet<string>,
  hovered: string | undefined,
): void {
  const { c, inks, view } = pen
  for (const { id, line } of ways) {
    const on = chosen.has(id) || hovered === id
    c.strokeStyle = on ? inks.colour.rust : inks.colour.lake
    c.lineWidth = on ? 3 : 1.2
    c.globalAlpha = on ? 1 : 0.8
    c.beginPath()
    traceLine(pen, line)
    c.stroke()
    if (view.scale < 2.5 || line.length < 2) continue
    const [p, q] = [line[line.length - 2], line[line.length - 1]]
    const rad = Math.atan2(q[1] - p[1], q[0] - p[0])
    const [x, y] = [X(pen, q[0]), Y(pen, q[1])]
    c.beginPath()
    c.moveTo(x - 7 * Math.cos(rad - 0.5), y + 7 * Math.sin(rad - 0.5))
    c.lineTo(x, y)
    c.lineTo(x - 7 * Math.cos(rad + 0.5), y + 7 * Math.sin(rad + 0.5))
    c.stroke()
    // Where all come alike it is said of the chosen one only.
    const fork = forks.get(links[id].fromId) ?? []
    const total = sharesOf(fork)
    if (fork.length < 2 || total === 0 || !(on || fork.some((w) => w.share !== fork[0].share))) continue
    c.globalAlpha = 1
    const [sx, sy] = line[Math.floor(line.length * 0.4)]
    drawShare(pen, `${Math.round((100 * links[id].share) / total)} %`, X(pen, sx), Y(pen, sy))
  }
  c.globalAlpha = 1
}

/** Nodes are drawn so many at a time. */
const NODES_AT_ONCE = 200

/** Nodes of networks as lozenges, and waypoints that belong to nothing as small open ones. */
export function* drawNodes(
  pen: Pen,
  level: Level,
  chosen: ReadonlySet<string>,
  hovered: string | undefined,
): Generator<void, void> {
  const { c, inks, view } = pen
  const seen = seenBox(view, 20)
  const small = view.scale < 1.5
  const r = small ? 3 : NODE_PX
  c.lineWidth = small ? 1.2 : 1.8
  for (const [routeId, route] of Object.entries(level.routes)) {
    if (route.kind !== 'network' || route.hidden) continue
    const colour = inks.colour[inkOf(route)]
    const whole = chosen.has(routeId) || hovered === routeId
    for (const [k, stopId] of route.order.entries()) {
      if (k % NODES_AT_ONCE === NODES_AT_ONCE - 1) yield
      c.strokeStyle = colour
      const waypoint = level.waypoints[route.stops[stopId].waypointId]
      if (!boxHolds(seen, waypoint.at[0], waypoint.at[1])) continue
      lozenge(c, X(pen, waypoint.at[0]), Y(pen, waypoint.at[1]), whole && !small ? r + 1.5 : r)
      c.fillStyle = chosen.has(stopId) ? colour : waypoint.markerId ? inks.colour.ochre : inks.colour.sheet
      c.fill()
      c.stroke()
    }
  }
  c.strokeStyle = inks.colour.faded
  c.lineWidth = 1.2
  c.setLineDash([2, 2])
  for (const id of looseWaypoints(level)) {
    const waypoint = level.waypoints[id]
    if (!boxHolds(seen, waypoint.at[0], waypoint.at[1])) continue
    lozenge(c, X(pen, waypoint.at[0]), Y(pen, waypoint.at[1]), 5)
    if (chosen.has(id)) {
      c.fillStyle = inks.colour.faded
      c.fill()
    }
    c.stroke()
  }
  c.setLineDash([])
}

function lozenge(c: CanvasRenderingContext2D, x: number, y: number, r: number): void {
  c.beginPath()
  c.moveTo(x, y - r)
  c.lineTo(x + r, y)
  c.lineTo(x, y + r)
  c.lineTo(x - r, y)
  c.closePath()
}
