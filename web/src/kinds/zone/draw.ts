import { areaOf, type Level, type Zone } from '@tidytrail/core/level'
import { isFreeForLabel } from '../../map/label-room'
import { label, TEXT_FONT, X, Y, type Pen } from '../../map/pen'

/** A zone is named from so many pixels across. */
const NAMED_PX = 46

/** What stands on the border of a zone, by its purpose: marks every so many pixels. */
const MARKS: Readonly<
  Record<Zone['purpose'], { every: number; draw: (c: CanvasRenderingContext2D) => void } | undefined>
> = {
  wander: undefined,
  guard: undefined,
  // Ticks inward.
  hold: { every: 12, draw: (c) => stroke(c, [0, 0, 0, 6]) },
  // Chevrons outward.
  start: { every: 18, draw: (c) => stroke(c, [-4, -1, 0, -6, 4, -1]) },
  // Ticks to either side by turns.
  contest: { every: 20, draw: (c) => stroke(c, [0, 0, 0, 5], [10, 0, 10, -5]) },
  'keep-out': { every: 14, draw: (c) => stroke(c, [-3.5, -3.5, 3.5, 3.5], [-3.5, 3.5, 3.5, -3.5]) },
}

function stroke(c: CanvasRenderingContext2D, ...lines: number[][]): void {
  c.beginPath()
  for (const line of lines)
    for (let k = 0; k < line.length; k += 2) {
      if (k === 0) c.moveTo(line[0], line[1])
      else c.lineTo(line[k], line[k + 1])
    }
  c.stroke()
}

/** The border of a zone as a line of window pixels; of a band the line it lies along, to be drawn broad. */
export function borderOf(
  pen: Pen,
  level: Level,
  zone: Zone,
): { line: [number, number][]; broadPx: number } | undefined {
  const at = (p: readonly number[]): [number, number] => [X(pen, p[0]), Y(pen, p[1])]
  if (zone.shape === 'polygon') return { line: zone.ring.map(at), broadPx: 0 }
  if (zone.shape === 'circle') {
    const [[cx, cy], [px, py]] = zone.ring
    const r = Math.hypot(px - cx, py - cy)
    const n = 64
    return {
      line: Array.from({ length: n }, (_, k) => {
        const a = (k / n) * 2 * Math.PI
        return at([cx + Math.cos(a) * r, cy + Math.sin(a) * r])
      }),
      broadPx: 0,
    }
  }
  const route = level.routes[zone.routeId ?? '']
  if (!route || route.order.length < 2) return undefined
  const line = route.order.map((s) => at(level.waypoints[route.stops[s].waypointId].at))
  if (route.travel === 'round') line.push(line[0])
  return { line, broadPx: zone.widthM * pen.view.scale }
}

/** Zones: an inked border whose stroke tells the purpose, bare inside; the chosen one has a pale wash. */
export function drawZones(pen: Pen, level: Level, chosen: ReadonlySet<string>, hovered: string | undefined): void {
  const { c, inks, view } = pen
  for (const [id, zone] of Object.entries(level.zones)) {
    if (zone.hidden) continue
    const border = borderOf(pen, level, zone)
    if (!border) continue
    const on = chosen.has(id)
    c.strokeStyle = on ? inks.colour.rust : inks.colour.ink
    c.lineWidth = on || hovered === id ? 2.2 : 1.4
    c.lineJoin = 'round'
    if (border.broadPx > 0) drawBand(pen, border.line, border.broadPx, zone.purpose, on)
    else drawRing(pen, border.line, zone.purpose, on)
    const area = areaOf(level, zone)
    const wide = area ? (area.box.maxX - area.box.minX) * view.scale : 0
    if (!zone.name || wide <= NAMED_PX) continue
    // From its highest corner downwards: the first where the flag hangs over nothing that stands there.
    const text = zone.name.length > 28 ? `${zone.name.slice(0, 27)}…` : zone.name
    pen.c.font = `400 11px ${TEXT_FONT}`
    const flag = pen.c.measureText(text).width + 8
    const up = border.broadPx / 2
    const tops = [...border.line].sort((a, b) => a[1] - b[1])
    const free = tops.find(([x, y]) => isFreeForLabel(pen, level, x, y - up - FLAG_PX, flag))
    const [x, y] = free ?? tops[0]
    if (free || on) pennant(pen, text, x, y - up, on)
  }
}

function dashFor(c: CanvasRenderingContext2D, purpose: Zone['purpose']): void {
  c.setLineDash(purpose === 'wander' ? [1.5, 5] : [])
  c.lineCap = purpose === 'wander' ? 'round' : 'butt'
}

function drawRing(pen: Pen, line: [number, number][], purpose: Zone['purpose'], on: boolean): void {
  const { c, inks } = pen
  c.beginPath()
  line.forEach(([x, y], k) => (k === 0 ? c.moveTo(x, y) : c.lineTo(x, y)))
  c.closePath()
  if (on) {
    c.fillStyle = inks.colour.rust
    c.globalAlpha = 0.07
    c.fill()
    c.globalAlpha = 1
  }
  dashFor(c, purpose)
  if (purpose === 'wander') c.lineWidth += 1
  c.stroke()
  c.setLineDash([])
  c.lineCap = 'butt'
  // On a window the sense of turning is the other way round.
  const left = signedArea(line) > 0
  if (purpose === 'guard') {
    c.lineWidth *= 0.6
    alongBorder(line, 0, left, () => undefined)
    const inner = inset(line, left ? 4 : -4)
    c.beginPath()
    inner.forEach(([x, y], k) => (k === 0 ? c.moveTo(x, y) : c.lineTo(x, y)))
    c.closePath()
    c.stroke()
  }
  const marks = MARKS[purpose]
  if (marks) alongBorder(line, marks.every, left, (x, y, turn) => at(c, x, y, turn, () => marks.draw(c)))
}

/** A band: its two edges, by drawing it broad and taking the middle out again. */
function drawBand(pen: Pen, line: [number, number][], broadPx: number, purpose: Zone['purpose'], on: boolean): void {
  const { c, inks } = pen
  const width = c.lineWidth
  for (const side of [-1, 1]) {
    c.beginPath()
    offsetLine(line, (side * broadPx) / 2).forEach(([x, y], k) => (k === 0 ? c.moveTo(x, y) : c.lineTo(x, y)))
    dashFor(c, purpose)
    c.lineWidth = purpose === 'wander' ? width + 1 : width
    c.stroke()
    c.setLineDash([])
    const marks = MARKS[purpose]
    if (marks)
      alongBorder(
        offsetLine(line, (side * broadPx) / 2),
        marks.every,
        side < 0,
        (x, y, turn) => at(c, x, y, turn, () => marks.draw(c)),
        false,
      )
  }
  if (!on) return
  c.globalAlpha = 0.07
  c.strokeStyle = inks.colour.rust
  c.lineWidth = broadPx
  c.beginPath()
  line.forEach(([x, y], k) => (k === 0 ? c.moveTo(x, y) : c.lineTo(x, y)))
  c.stroke()
  c.globalAlpha = 1
}

function at(c: CanvasRenderingContext2D, x: number, y: number, turn: number, draw: () => void): void {
  c.save()
  c.translate(x, y)
  c.rotate(turn)
  draw()
  c.restore()
}

const signedArea = (line: [number, number][]) =>
  line.reduce((sum, [x, y], k) => {
    const [nx, ny] = line[(k + 1) % line.length]
    return sum + x * ny - nx * y
  }, 0)

/** Visits places along a border every so many pixels, turned so that +y leads inward. */
function alongBorder(
  line: [number, number][],
  every: number,
  left: boolean,
  visit: (x: number, y: number, turn: number) => void,
  closed = true,
): void {
  if (every === 0) return
  let rest = every / 2
  for (let k = 0; k < line.length - (closed ? 0 : 1); k++) {
    const [ax, ay] = line[k]
    const [bx, by] = line[(k + 1) % line.length]
    const length = Math.hypot(bx - ax, by - ay)
    const turn = Math.atan2(by - ay, bx - ax) + (left ? 0 : Math.PI)
    for (; rest < length; rest += every) visit(ax + ((bx - ax) * rest) / length, ay + ((by - ay) * rest) / length, turn)
    rest -= length
  }
}

/** A closed line moved inward, corner by corner. */
const inset = (line: [number, number][], by: number): [number, number][] =>
  line.map(([x, y], k) => {
    const p = line[(k + line.length - 1) % line.length]
    const q = line[(k + 1) % line.length]
    return shifted([x, y], p, q, by)
  })

/** An open line moved to one side. */
const offsetLine = (line: [number, number][], by: number): [number, number][] =>
  line.map((at, k) => shifted(at, line[Math.max(0, k - 1)], line[Math.min(line.length - 1, k + 1)], by))

function shifted(at: [number, number], p: [number, number], q: [number, number], by: number): [number, number] {
  const normal = (ax: number, ay: number, bx: number, by_: number): [number, number] => {
    const d = Math.hypot(bx - ax, by_ - ay)
    return d === 0 ? [0, 0] : [-(by_ - ay) / d, (bx - ax) / d]
  }
  const a = normal(p[0], p[1], at[0], at[1])
  const b = normal(at[0], at[1], q[0], q[1])
  const sx = a[0] + b[0]
  const sy = a[1] + b[1]
  const d2 = sx * sx + sy * sy
  const k = d2 > 0.2 ? (2 * by) / d2 : by
  return [at[0] + sx * k * (d2 > 0.2 ? 1 : 0.5), at[1] + sy * k * (d2 > 0.2 ? 1 : 0.5)]
}

/** So far above the border a flag hangs, pixels. */
const FLAG_PX = 16

/** The name on a small flag above the border. */
function pennant(pen: Pen, text: string, x: number, y: number, on: boolean): void {
  const { c, inks } = pen
  c.strokeStyle = inks.colour.ink
  c.lineWidth = 1.2
  c.beginPath()
  c.moveTo(x, y)
  c.lineTo(x, y - 13)
  c.stroke()
  label(pen, text, x, y - FLAG_PX, { size: 11, bold: on })
}
