import type { Level } from '@tidytrail/core/level'
import {
  laneNet,
  isLit,
  lightAt,
  partOf,
  placeAt,
  redBeforeM,
  waitsAtM,
  watchOf,
  yieldIn,
  type Light,
  type Pair,
} from '@tidytrail/core/traffic'
import { label, plainText, traceLine, X, Y, type Pen } from '../../map/pen'
import { boxOf } from '@tidytrail/core/geometry'
import { seenBox } from '../../map/viewport'
import { useTrafficStore } from '../../stores/traffic'
import { planOf, shownAt } from './ways'

/** Ways are numbered and conflicts drawn from so many pixels a metre on. */
const PARTS_FROM = 2.5

/** Junctions: an outline; those close by with lines where one waits. */
export function drawJunctions(
  pen: Pen,
  level: Level,
  whole: Level,
  chosen: ReadonlySet<string>,
  hovered: string | undefined,
): void {
  const { c, inks, view } = pen
  const seen = seenBox(view, 40)
  for (const [id, junction] of Object.entries(level.junctions)) {
    if (junction.hidden) continue
    const box = boxOf(junction.ring)
    if (box.maxX < seen.minX || box.minX > seen.maxX || box.maxY < seen.minY || box.minY > seen.maxY) continue
    const on = chosen.has(id)
    c.strokeStyle = on ? inks.colour.rust : inks.colour.plum
    c.lineWidth = on || hovered === id ? 2.4 : 1.4
    c.setLineDash([9, 4])
    c.beginPath()
    traceLine(pen, junction.ring, true)
    c.stroke()
    c.setLineDash([])
    const top = junction.ring.reduce((a, b) => (b[1] > a[1] ? b : a))
    if (on || view.scale > 4) label(pen, junction.name, X(pen, top[0]), Y(pen, top[1]) - 12, { size: 11, bold: on })
    if (view.scale >= PARTS_FROM && junction.control !== 'signals') drawLines(pen, whole, id)
  }
}

/** What follows the hand: the lights at the time that is looked at, and the ways of the chosen junction. */
export function drawLooked(pen: Pen, doc: Level, chosen: ReadonlySet<string>): void {
  if (pen.view.scale < PARTS_FROM) return
  for (const [id, junction] of Object.entries(doc.junctions)) {
    if (junction.hidden) continue
    if (chosen.has(id)) drawWays(pen, doc, id)
    if (junction.control !== 'signals') continue
    drawLines(pen, doc, id)
    drawWalkers(pen, doc, id, chosen.has(id))
  }
}

/** A line across the way before what it waits for: a triangle's teeth for give way, a bar for stop, lights at signals. */
function drawLines(pen: Pen, level: Level, id: string): void {
  const { c, inks, view } = pen
  const junction = level.junctions[id]
  const { ways, pairs, crossings } = planOf(level, id)
  const signals = junction.control === 'signals'
  const lit = crossings.filter((c) => isLit(junction, c))
  for (const way of ways) {
    const waits = pairs.flatMap((pair) => {
      const told = yieldIn(pair)
      if (told?.own.id !== way.id) return []
      return pair.conflicts.map((k) => ({ own: pair.a.id === way.id ? k.a : k.b, stops: told.stops }))
    })
    const light = signals ? lightAt(junction, way.id, useTrafficStore().t) : undefined
    if (waits.length === 0 && !light && junction.control !== 'all-way') continue
    const m = waits.length > 0 && !signals ? waitsAtM(waits) : 0
    // Before a crossing with lights it is waited at red on the lane that comes in.
    const backM = signals ? redBeforeM(way, lit) : 0
    const line = backM > 0 ? laneNet(level).lanes.get(way.from)!.line : way.line
    const atM = backM > 0 ? Math.max(0, way.fromM - backM) : m
    const [x, y] = placeAt(line, atM)
    const [nx, ny] = placeAt(line, atM + 0.2)
    const rad = Math.atan2(ny - y, nx - x)
    const half = Math.max(5, (1.4 * view.scale) / 1.2)
    const [sx, sy] = [X(pen, x), Y(pen, y)]
    const [ax, ay] = [Math.sin(rad), Math.cos(rad)]
    const stops = junction.control === 'all-way' || waits.some((w) => w.stops)
    c.strokeStyle = light ? lightInk(pen, light) : inks.colour.ink
    c.lineWidth = stops || light ? 3.4 : 2
    c.setLineDash(stops || light ? [] : [4, 3])
    c.beginPath()
    c.moveTo(sx - ax * half, sy - ay * half)
    c.lineTo(sx + ax * half, sy + ay * half)
    c.stroke()
    c.setLineDash([])
    // Shapes carry it as well: a ring for green, a filled spot for red, half of it for amber.
    if (!light) continue
    c.beginPath()
    c.arc(sx, sy, 4.5, 0, 2 * Math.PI)
    c.fillStyle = light === 'green' ? inks.colour.sheet : lightInk(pen, light)
    c.fill()
    c.lineWidth = 1.8
    c.stroke()
  }
}

/** The lights of those who walk: a mark at each kerb of a crossing, and its letter on the chosen junction. */
function drawWalkers(pen: Pen, level: Level, id: string, on: boolean): void {
  const { c, inks } = pen
  const junction = level.junctions[id]
  const signs = new Map(shownAt(level, id).map((s) => [s.id, s.sign]))
  for (const at of planOf(level, id).crossings) {
    const { line, laneId } = at.crossing
    const lit = isLit(junction, at)
    const light = lit ? lightAt(junction, laneId, useTrafficStore().t) : undefined
    for (const m of light ? [0, line.lengthM] : []) {
      const [x, y] = placeAt(line, m)
      const ink = lightInk(pen, light === 'green' ? 'green' : 'red')
      // A square, as a spot is for those who drive; empty for green.
      c.strokeStyle = ink
      c.lineWidth = 1.8
      c.fillStyle = light === 'green' ? inks.colour.sheet : ink
      c.beginPath()
      c.rect(X(pen, x) - 3.5, Y(pen, y) - 3.5, 7, 7)
      c.fill()
      c.stroke()
    }
    if (!on) continue
    const [x, y] = placeAt(line, line.lengthM / 2)
    label(pen, signs.get(laneId)!, X(pen, x), Y(pen, y), { size: 11, bold: true })
  }
}

const lightInk = ({ inks }: Pen, light: Light) =>
  ({ green: inks.colour.pine, amber: inks.colour.ochre, red: inks.colour.alarm })[light]

/** The ways of the chosen junction with their numbers, and where they conflict; the pair pointed at stands out. */
function drawWays(pen: Pen, level: Level, id: string): void {
  const { c, inks } = pen
  const { ways, pairs } = planOf(level, id)
  const pair = useTrafficStore().pair
  for (const p of pairs)
    if (!pair || (pair.includes(p.a.id) && pair.includes(p.b.id))) drawWatch(pen, level, p, pair !== undefined)
  ways.forEach((way, k) => {
    const on = pair?.includes(way.id) ?? false
    c.strokeStyle = on ? inks.colour.rust : inks.colour.lake
    c.lineWidth = on ? 3.4 : 1.4
    c.globalAlpha = pair && !on ? 0.35 : 1
    c.beginPath()
    traceLine(pen, way.line.places)
    c.stroke()
    c.globalAlpha = 1
    // So far along that those of one approach have parted.
    const [x, y] = placeAt(way.line, way.line.lengthM * 0.36)
    c.fillStyle = inks.colour.sheet
    c.lineWidth = 1.2
    c.beginPath()
    c.arc(X(pen, x), Y(pen, y), 8, 0, 2 * Math.PI)
    c.fill()
    c.stroke()
    plainText(pen, `${k + 1}`, X(pen, x), Y(pen, y), inks.colour.ink, true, 10)
  })
  for (const { a, b, conflicts, settled } of pairs) {
    const on = pair ? pair.includes(a.id) && pair.includes(b.id) : false
    const open = settled.by === 'nothing'
    if (pair && !on) continue
    for (const { at } of conflicts) {
      const [x, y] = [X(pen, at[0]), Y(pen, at[1])]
      c.strokeStyle = open ? inks.colour.alarm : inks.colour.ink
      c.fillStyle = open ? inks.colour.alarm : inks.colour.sheet
      c.lineWidth = on ? 2.4 : 1.2
      c.beginPath()
      if (open) c.rect(x - 4, y - 4, 8, 8)
      else c.arc(x, y, on ? 5 : 3, 0, 2 * Math.PI)
      c.fill()
      c.stroke()
    }
  }
}

/** The stretches that are watched for the sake of a pair, as broad as the lanes; ruddy where they are too short. */
function drawWatch(pen: Pen, level: Level, pair: Pair, pointed: boolean): void {
  const { c, inks, view } = pen
  const net = laneNet(level)
  const watch = watchOf(level, net, pair)
  if (!watch) return
  const { short } = watch
  if (!pointed && !short) return
  c.strokeStyle = short ? inks.colour.alarm : inks.colour.ochre
  c.lineCap = 'butt'
  for (const { id, isLane, fromM, toM } of watch.stretches) {
    const lane = isLane ? net.lanes.get(id) : net.lanes.get(net.moves.get(id)!.to)
    const { line } = isLane ? net.lanes.get(id)! : net.moves.get(id)!
    const { places } = partOf(line, { fromM, toM })
    c.globalAlpha = 0.35
    c.lineWidth = Math.max(5, (lane?.route.widthM || 3) * 0.8 * view.scale)
    c.beginPath()
    traceLine(pen, places)
    c.stroke()
    c.globalAlpha = 1
    // An edge to it, as a colour by itself is not seen by all.
    c.lineWidth = 1.6
    c.setLineDash(short ? [2, 3] : [])
    c.stroke()
    c.setLineDash([])
  }
}
