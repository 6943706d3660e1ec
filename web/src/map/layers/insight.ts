import type { Coverage } from '@tidytrail/core/insight'
import { inMetres, X, Y, type Pen } from '../pen'

const pictures = new WeakMap<Coverage, { ink: string; blind: string; picture: HTMLCanvasElement }>()

/** Blind spots are told from what is seldom watched by a mark of their own, so that it is not by ink alone. */
function pictureOf(of: Coverage, ink: string, blind: string): HTMLCanvasElement {
  const known = pictures.get(of)
  if (known?.ink === ink && known.blind === blind) return known.picture
  // Three dots to a square, so that a square that is never seen can be barred.
  const size = 3
  const picture = document.createElement('canvas')
  picture.width = of.columns * size
  picture.height = of.rows * size
  const c = picture.getContext('2d')!
  of.seconds.forEach((s, k) => {
    if (s < 0) return
    const x = (k % of.columns) * size
    const y = (of.rows - 1 - Math.floor(k / of.columns)) * size
    if (s === 0) {
      c.globalAlpha = 0.5
      c.fillStyle = blind
      c.fillRect(x + 1, y + 1, 1, 1)
      return
    }
    c.globalAlpha = 0.06 + 0.44 * Math.sqrt(Math.min(1, s / of.ofS))
    c.fillStyle = ink
    c.fillRect(x, y, size, size)
  })
  pictures.set(of, { ink, blind, picture })
  return picture
}

/** What is watched how much of the time: fuller the longer; what never is has a dot in each square. */
export function drawCoverage(pen: Pen, of: Coverage): void {
  const picture = pictureOf(of, pen.inks.colour.lake, pen.inks.colour.alarm)
  const [wide, high] = [of.columns * of.squareM, of.rows * of.squareM]
  inMetres(pen, () => {
    pen.c.imageSmoothingEnabled = false
    pen.c.translate(of.minX, of.minY + high)
    pen.c.scale(1, -1)
    pen.c.drawImage(picture, 0, 0, wide, high)
    pen.c.imageSmoothingEnabled = true
  })
}

/** A place that is pointed at in a chart. */
export function drawPointed(pen: Pen, [x, y]: readonly [number, number]): void {
  const { c, inks } = pen
  c.strokeStyle = inks.colour.ink
  c.lineWidth = 2
  c.beginPath()
  c.arc(X(pen, x), Y(pen, y), 9, 0, 7)
  c.moveTo(X(pen, x) - 14, Y(pen, y))
  c.lineTo(X(pen, x) + 14, Y(pen, y))
  c.moveTo(X(pen, x), Y(pen, y) - 14)
  c.lineTo(X(pen, x), Y(pen, y) + 14)
  c.stroke()
}

/** What somebody's way looks like from its point of view: the way ahead, where it leads, and what it has in mind. */
export interface WhyDrawing {
  readonly from: readonly [number, number]
  readonly ahead: readonly (readonly number[])[]
  readonly goal: readonly [number, number] | undefined
  /** Where it perceived last whom it has in mind. */
  readonly minds: readonly [number, number] | undefined
  /** Moments on its way so far: where they were, in a sign each. */
  readonly marks: readonly { readonly at: readonly [number, number]; readonly sign: string; readonly grave: boolean }[]
}

/** Why somebody does what it does, as marks along its way. */
export function drawWhy(pen: Pen, why: WhyDrawing): void {
  const { c, inks } = pen
  c.strokeStyle = inks.colour.ink
  c.lineWidth = 1.6
  c.setLineDash([6, 4])
  c.beginPath()
  c.moveTo(X(pen, why.from[0]), Y(pen, why.from[1]))
  for (const [x, y] of why.ahead) c.lineTo(X(pen, x), Y(pen, y))
  c.stroke()
  c.setLineDash([])
  if (why.goal) {
    const [x, y] = [X(pen, why.goal[0]), Y(pen, why.goal[1])]
    c.lineWidth = 2
    c.beginPath()
    c.moveTo(x - 5, y - 5)
    c.lineTo(x + 5, y + 5)
    c.moveTo(x + 5, y - 5)
    c.lineTo(x - 5, y + 5)
    c.stroke()
  }
  if (why.minds) {
    const [x, y] = [X(pen, why.minds[0]), Y(pen, why.minds[1])]
    c.strokeStyle = inks.colour.lake
    c.setLineDash([2, 3])
    c.beginPath()
    c.arc(x, y, 12, 0, 7)
    c.moveTo(X(pen, why.from[0]), Y(pen, why.from[1]))
    c.lineTo(x, y)
    c.stroke()
    c.setLineDash([])
  }
  for (const { at, sign, grave } of why.marks) {
    const [x, y] = [X(pen, at[0]), Y(pen, at[1])]
    c.fillStyle = inks.colour.sheet
    c.strokeStyle = grave ? inks.colour.alarm : inks.colour.ink
    c.lineWidth = 1.2
    c.beginPath()
    c.arc(x, y, 6.5, 0, 7)
    c.fill()
    c.stroke()
    c.fillStyle = grave ? inks.colour.alarm : inks.colour.ink
    c.font = "700 10px 'Atkinson Hyperlegible', sans-serif"
    c.textAlign = 'center'
    c.textBaseline = 'middle'
    c.fillText(sign, x, y + 0.5)
  }
}
