import type { Inks } from './inks'
import { toScreenX, toScreenY, type Viewport } from './viewport'

/** A canvas to draw on in window pixels, with the view and the inks at hand. */
export interface Pen {
  readonly c: CanvasRenderingContext2D
  readonly view: Viewport
  readonly inks: Inks
  /** Device pixels a window pixel. */
  readonly ratio: number
}

export const X = (pen: Pen, x: number) => toScreenX(pen.view, x)
export const Y = (pen: Pen, y: number) => toScreenY(pen.view, y)

/** Runs with the canvas in level metres: for paths kept in metres. Line widths are then metres too. */
export function inMetres(pen: Pen, draw: (metre: number) => void): void {
  const metre = toMetres(pen)
  draw(metre)
  pen.c.restore()
}

/** Puts the canvas in level metres until it is restored; how many of them a pixel is. */
export function toMetres({ c, view, ratio }: Pen): number {
  c.save()
  c.setTransform(
    view.scale * ratio,
    0,
    0,
    -view.scale * ratio,
    (view.width / 2 - view.x * view.scale) * ratio,
    (view.height / 2 + view.y * view.scale) * ratio,
  )
  return 1 / view.scale
}

/** Sets a pattern so that it keeps its size on the screen but moves with the map. Call within `inMetres`. */
export function pinPattern(pen: Pen, pattern: CanvasPattern): CanvasPattern {
  const k = 1 / (pen.view.scale * pen.ratio)
  pattern.setTransform(new DOMMatrix([k, 0, 0, -k, 0, 0]))
  return pattern
}

/** Moves along level places on the current path. */
export function traceLine(pen: Pen, line: readonly (readonly number[])[], close = false): void {
  line.forEach((p, i) => {
    if (i === 0) pen.c.moveTo(X(pen, p[0]), Y(pen, p[1]))
    else pen.c.lineTo(X(pen, p[0]), Y(pen, p[1]))
  })
  if (close) pen.c.closePath()
}

/** The face all words on the map are written in. */
export const TEXT_FONT = "'Atkinson Hyperlegible', sans-serif"

/** A small label on a scrap of paper, centred on a window place. */
export function label(
  pen: Pen,
  text: string,
  x: number,
  y: number,
  options: { bold?: boolean; size?: number } = {},
): void {
  const { c, inks } = pen
  c.font = `${options.bold ? 700 : 400} ${options.size ?? 12}px ${TEXT_FONT}`
  const width = c.measureText(text).width + 8
  c.globalAlpha = 0.9
  c.fillStyle = inks.colour.sheet
  c.fillRect(x - width / 2, y - 8, width, 16)
  c.globalAlpha = 1
  c.fillStyle = inks.colour.ink
  c.textAlign = 'center'
  c.textBaseline = 'middle'
  c.fillText(text, x, y + 0.5)
}

export function plainText(pen: Pen, text: string, x: number, y: number, colour: string, bold = true, size = 12): void {
  const { c } = pen
  c.font = `${bold ? 700 : 400} ${size}px ${TEXT_FONT}`
  c.fillStyle = colour
  c.textAlign = 'center'
  c.textBaseline = 'middle'
  c.fillText(text, x, y + 0.5)
}
