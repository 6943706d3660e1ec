import type { StrayedLeg } from '@tidytrail/core/rehearsal'
import type { AgentMoment } from '../../stores/rehearsal'
import type { HeatMap } from '../../workers/rehearsal.protocol'
import { addDrop } from '../drop'
import { inMetres, X, Y, type Pen } from '../pen'

/** Seconds spent in a square, spread over those about it, that are drawn in full ink. */
const HOT_S = 3

/** Less than this is not drawn, seconds. */
const COLD_S = 0.02
/** Squares to either side a square spreads over, so that a path of one square's width is seen. */
const SPREAD = 2

/** Seconds spread evenly over the squares about each, first along rows and then along columns. */
function spread({ columns, rows, seconds }: HeatMap): Float32Array {
  const pass = (from: Float32Array, count: number, step: number, lines: number, lineStep: number) => {
    const to = new Float32Array(from.length)
    for (let line = 0; line < lines; line++) {
      let sum = 0
      const at = (k: number) => (k >= 0 && k < count ? from[line * lineStep + k * step] : 0)
      for (let k = 0; k < SPREAD; k++) sum += at(k)
      for (let k = 0; k < count; k++) {
        sum += at(k + SPREAD) - at(k - SPREAD - 1)
        to[line * lineStep + k * step] = sum / (2 * SPREAD + 1)
      }
    }
    return to
  }
  return pass(pass(seconds, columns, 1, rows, columns), rows, columns, columns, 1)
}

const pictures = new WeakMap<HeatMap, { ink: string; picture: HTMLCanvasElement }>()

/** The squares of a heat map as a picture, a dot of ink a square, fuller the longer somebody was there. */
function pictureOf(heat: HeatMap, ink: string): HTMLCanvasElement {
  const known = pictures.get(heat)
  if (known?.ink === ink) return known.picture
  const picture = document.createElement('canvas')
  picture.width = heat.columns
  picture.height = heat.rows
  const c = picture.getContext('2d')!
  c.fillStyle = ink
  const seconds = spread(heat)
  for (let k = 0; k < seconds.length; k++) {
    if (seconds[k] < COLD_S) continue
    c.globalAlpha = Math.min(0.85, 0.22 + (0.63 * Math.log1p(seconds[k])) / Math.log1p(HOT_S))
    // Pictures have their first row on top, levels theirs in the south.
    c.fillRect(k % heat.columns, heat.rows - 1 - Math.floor(k / heat.columns), 1, 1)
  }
  pictures.set(heat, { ink, picture })
  return picture
}

/** Where everybody has been. */
export function drawHeat(pen: Pen, heat: HeatMap): void {
  const picture = pictureOf(heat, pen.inks.colour.plum)
  const [wide, high] = [heat.columns * heat.squareM, heat.rows * heat.squareM]
  inMetres(pen, () => {
    pen.c.imageSmoothingEnabled = true
    pen.c.translate(heat.minX, heat.minY + high)
    pen.c.scale(1, -1)
    pen.c.drawImage(picture, 0, 0, wide, high)
  })
}

/** How far off is what ink: up to a remark, up to a failure, and beyond. */
export function strayInk(offM: number, limits: { remark: number; fail: number }): 'pine' | 'ochre' | 'alarm' {
  return offM <= limits.remark ? 'pine' : offM <= limits.fail ? 'ochre' : 'alarm'
}

/** Bands along the legs, by how far agents have strayed from them. */
export function drawStraying(pen: Pen, legs: readonly StrayedLeg[], limits: { remark: number; fail: number }): void {
  const { c, inks } = pen
  c.lineCap = 'butt'
  c.globalAlpha = 0.6
  for (const ink of ['pine', 'ochre', 'alarm'] as const) {
    c.strokeStyle = inks.colour[ink]
    c.lineWidth = ink === 'pine' ? 5 : ink === 'ochre' ? 8 : 11
    c.beginPath()
    for (const { points, offM } of legs) {
      for (let k = 0; k < offM.length; k++) {
        if (offM[k] < 0 || strayInk(offM[k], limits) !== ink) continue
        c.moveTo(X(pen, points[3 * k]), Y(pen, points[3 * k + 1]))
        c.lineTo(X(pen, points[3 * k + 3]), Y(pen, points[3 * k + 4]))
      }
    }
    c.stroke()
  }
  c.globalAlpha = 1
}

/** Short lines to where agents would be in a second if they went as they want to. */
export function drawWants(pen: Pen, moments: Iterable<AgentMoment>): void {
  const { c, inks } = pen
  c.strokeStyle = inks.colour.ink
  c.lineWidth = 1.6
  c.beginPath()
  for (const now of moments) {
    if (now.want < 0.02) continue
    const x = X(pen, now.x)
    const y = Y(pen, now.y)
    const tx = X(pen, now.x + Math.cos(now.wantTurn) * now.want)
    const ty = Y(pen, now.y + Math.sin(now.wantTurn) * now.want)
    c.moveTo(x, y)
    c.lineTo(tx, ty)
    // A bar across its end, so that it is not taken for a tail.
    const length = Math.hypot(tx - x, ty - y) || 1
    const bx = (-(ty - y) / length) * 3
    const by = ((tx - x) / length) * 3
    c.moveTo(tx + bx, ty + by)
    c.lineTo(tx - bx, ty - by)
  }
  c.stroke()
}

/** A thread from somebody to whoever holds it back. */
export function drawHeldBy(pen: Pen, now: AgentMoment, other: AgentMoment): void {
  const { c, inks } = pen
  c.strokeStyle = inks.colour.plum
  c.lineWidth = 1.4
  c.setLineDash([1.5, 4])
  c.beginPath()
  c.moveTo(X(pen, now.x), Y(pen, now.y))
  c.lineTo(X(pen, other.x), Y(pen, other.y))
  c.stroke()
  c.setLineDash([])
}

/** So much apart two runs are told from each other, metres. */
const APART_M = 0.1
const TAIL_S = 4

/** Where somebody was at this moment in the run before: a dotted drop with a dotted tail, where it was elsewhere. */
export function drawEarlier(
  pen: Pen,
  then: (t: number) => AgentMoment | undefined,
  now: AgentMoment | undefined,
  t: number,
  radiusM: number,
): void {
  const at = then(t)
  if (!at || (now && Math.hypot(at.x - now.x, at.y - now.y) < APART_M)) return
  const { c, inks, view } = pen
  const [x, y] = [X(pen, at.x), Y(pen, at.y)]
  const drop = () => addDrop(c, x, y, -at.heading, Math.max(6.5, radiusM * view.scale))
  // On a light ground of its own, so that it stands out from whatever it is drawn over.
  c.fillStyle = c.strokeStyle = inks.colour.sheet
  c.beginPath()
  drop()
  c.fill()
  c.moveTo(x, y)
  for (let back = 0.4; back <= TAIL_S; back += 0.4) {
    const before = t - back >= 0 ? then(t - back) : undefined
    if (!before) break
    c.lineTo(X(pen, before.x), Y(pen, before.y))
  }
  c.lineWidth = 4.5
  c.stroke()
  c.strokeStyle = inks.colour.ink
  c.lineWidth = 1.8
  c.setLineDash([2, 2.5])
  c.stroke()
  c.setLineDash([])
}

/** Where two runs part: a small fork. */
export function drawFork(pen: Pen, at: AgentMoment): void {
  const { c, inks } = pen
  const x = X(pen, at.x)
  const y = Y(pen, at.y)
  c.strokeStyle = inks.colour.ink
  c.lineWidth = 1.8
  c.beginPath()
  c.moveTo(x, y + 9)
  c.lineTo(x, y + 1)
  c.moveTo(x, y + 1)
  c.lineTo(x - 5, y - 6)
  c.moveTo(x, y + 1)
  c.lineTo(x + 5, y - 6)
  c.stroke()
}
