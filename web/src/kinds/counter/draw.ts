import type { Level } from '@tidytrail/core/level'
import { counterPlace, type Gridlock } from '@tidytrail/core/insight'
import { directionAt, laneNet, placeAt, type NetLane } from '@tidytrail/core/traffic'
import { label, X, Y, type Pen } from '../../map/pen'

/** Where a counter stands, and how its lane leads there; undefined where it has no lane. */
export function standsAt(
  level: Level,
  id: string,
): { at: readonly [number, number, number]; rad: number; lane: NetLane } | undefined {
  const place = counterPlace(laneNet(level).lanes, level.counters[id])
  if (!place) return undefined
  const { lane, m } = place
  return { at: placeAt(lane.line, m), rad: directionAt(lane.line, m), lane }
}

/** A counter: two bars across its lane, with what flows there once that is known. */
export function drawCounter(pen: Pen, level: Level, id: string, on: boolean, says: string): void {
  const { c, inks, view } = pen
  const place = standsAt(level, id)
  if (!place) return
  const half = Math.max(6, ((place.lane.route.widthM || 3) / 2) * view.scale)
  const [x, y] = [X(pen, place.at[0]), Y(pen, place.at[1])]
  c.save()
  c.translate(x, y)
  c.rotate(-place.rad)
  c.strokeStyle = on ? inks.colour.rust : inks.colour.lake
  c.lineWidth = on ? 3 : 2
  c.beginPath()
  for (const off of [-2.5, 2.5]) {
    c.moveTo(off, -half)
    c.lineTo(off, half)
  }
  c.stroke()
  c.restore()
  if (says) label(pen, says, x, y - half - 11, { size: 11, bold: on })
}

/** Those who wait for each other in a ring: an arrow from each to the one it waits for. */
export function drawGridlock(
  pen: Pen,
  { keys }: Gridlock,
  placeOf: (key: number) => readonly [number, number] | undefined,
): void {
  const { c, inks } = pen
  c.strokeStyle = inks.colour.alarm
  c.fillStyle = inks.colour.alarm
  c.lineWidth = 2.6
  const seen: [number, number][] = []
  keys.forEach((key, k) => {
    const from = placeOf(key)
    const to = placeOf(keys[(k + 1) % keys.length])
    if (!from || !to) return
    const [ax, ay, bx, by] = [X(pen, from[0]), Y(pen, from[1]), X(pen, to[0]), Y(pen, to[1])]
    const rad = Math.atan2(by - ay, bx - ax)
    c.beginPath()
    c.moveTo(ax, ay)
    c.lineTo(bx - 8 * Math.cos(rad), by - 8 * Math.sin(rad))
    c.stroke()
    c.beginPath()
    c.moveTo(bx, by)
    for (const side of [2.7, -2.7]) c.lineTo(bx + 10 * Math.cos(rad + side), by + 10 * Math.sin(rad + side))
    c.fill()
    seen.push([ax, ay])
  })
  if (seen.length === 0) return
  const mid = (n: 0 | 1) => seen.reduce((sum, p) => sum + p[n], 0) / seen.length
  label(pen, `Gridlock: ${keys.length} wait for each other`, mid(0), mid(1), { bold: true, size: 12 })
}
