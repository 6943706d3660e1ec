import { pageColours, type ColourName } from '../ui/page-colours'

/** The colours and patterns the map is drawn with, read from the page's own variables. */
export interface Inks {
  readonly night: boolean
  readonly colour: Readonly<Record<InkName, string>>
  readonly hatch: CanvasPattern
  readonly waves: CanvasPattern
  /** One for each kind of cover. */
  readonly textures: Readonly<Record<TextureName, CanvasPattern>>
  /** One for each of the first islands, then over again. */
  readonly stipples: readonly CanvasPattern[]
}

export type TextureName = 'road' | 'pavement' | 'grass' | 'mud' | 'waves' | 'barred' | 'own'

export type InkName = ColourName

/** Reads the page's colours and makes the patterns; done again when day turns to night. */
export function readInks(ratio: number): Inks {
  const colour = pageColours()
  const night = document.documentElement.dataset.theme === 'night'
  const waves = (alpha: number) =>
    pattern(26, ratio, (c) => {
      c.strokeStyle = colour.lake
      c.globalAlpha = alpha
      c.lineWidth = 0.9
      for (const [x, y] of [
        [0, 7],
        [13, 20],
        [-13, 20],
      ]) {
        c.beginPath()
        c.moveTo(x, y)
        c.quadraticCurveTo(x + 4, y - 3.5, x + 8, y)
        c.quadraticCurveTo(x + 12, y + 3.5, x + 16, y)
        c.stroke()
      }
    })
  return {
    night,
    colour,
    hatch: pattern(8, ratio, (c) => {
      c.strokeStyle = colour.faded
      c.globalAlpha = night ? 0.45 : 0.5
      c.lineWidth = 0.8
      for (const o of [-8, 0, 8]) line(c, o, 8, o + 8, 0)
    }),
    waves: waves(night ? 0.3 : 0.35),
    textures: {
      road: pattern(7, ratio, (c) => {
        c.fillStyle = colour.ink
        c.globalAlpha = night ? 0.16 : 0.12
        c.fillRect(0, 0, 7, 7)
        c.globalAlpha = 0.35
        disc(c, 2, 2, 0.5)
        disc(c, 5.5, 5.5, 0.5)
      }),
      pavement: pattern(14, ratio, (c) => {
        c.strokeStyle = colour.faded
        c.globalAlpha = 0.5
        c.lineWidth = 0.8
        line(c, 0, 3.5, 14, 3.5)
        line(c, 0, 10.5, 14, 10.5)
        line(c, 3.5, 3.5, 3.5, 10.5)
        line(c, 10.5, -3.5, 10.5, 3.5)
        line(c, 10.5, 10.5, 10.5, 17.5)
      }),
      grass: pattern(18, ratio, (c) => {
        c.strokeStyle = colour.pine
        c.globalAlpha = 0.55
        c.lineWidth = 0.9
        for (const [x, y] of [
          [4, 7],
          [13, 15],
        ]) {
          line(c, x, y, x - 2, y - 4)
          line(c, x, y, x, y - 5)
          line(c, x, y, x + 2, y - 4)
        }
      }),
      mud: pattern(12, ratio, (c) => {
        c.strokeStyle = colour.ochre
        c.globalAlpha = 0.6
        c.lineWidth = 0.9
        for (const [x, y] of [
          [3, 3],
          [9, 9],
        ]) {
          c.beginPath()
          c.ellipse(x, y, 2.2, 1.2, 0, 0, 7)
          c.stroke()
        }
      }),
      waves: waves(0.55),
      barred: pattern(10, ratio, (c) => {
        c.strokeStyle = colour.alarm
        c.globalAlpha = 0.5
        c.lineWidth = 0.9
        for (const o of [-10, 0, 10]) {
          line(c, o, 10, o + 10, 0)
          line(c, o, 0, o + 10, 10)
        }
      }),
      own: pattern(12, ratio, (c) => {
        c.strokeStyle = colour.plum
        c.globalAlpha = 0.5
        c.lineWidth = 0.9
        for (const o of [-12, 0, 12]) line(c, o, 0, o + 12, 12)
      }),
    },
    stipples: [
      pattern(9, ratio, (c) => {
        c.fillStyle = colour.pine
        c.globalAlpha = 0.5
        for (const [x, y] of [
          [2.25, 2.25],
          [6.75, 6.75],
        ])
          disc(c, x, y, 0.75)
      }),
      pattern(9, ratio, (c) => {
        c.strokeStyle = colour.plum
        c.globalAlpha = 0.75
        line(c, 1, 2.5, 4.5, 2.5)
        line(c, 5, 7, 8.5, 7)
      }),
      pattern(10, ratio, (c) => {
        c.strokeStyle = colour.ochre
        c.globalAlpha = 0.8
        line(c, 1.5, 2.5, 4.5, 2.5)
        line(c, 3, 1, 3, 4)
        line(c, 6.5, 7.5, 9.5, 7.5)
        line(c, 8, 6, 8, 9)
      }),
      pattern(10, ratio, (c) => {
        c.strokeStyle = colour.lake
        c.globalAlpha = 0.85
        for (const [x, y] of [
          [3, 3],
          [8, 8],
        ]) {
          c.beginPath()
          c.arc(x, y, 1.6, 0, 7)
          c.stroke()
        }
      }),
      pattern(9, ratio, (c) => {
        c.strokeStyle = colour.rust
        c.globalAlpha = 0.7
        line(c, 2, 1, 2, 4)
        line(c, 6.5, 5.5, 6.5, 8.5)
      }),
    ],
  }
}

function pattern(size: number, ratio: number, draw: (c: CanvasRenderingContext2D) => void): CanvasPattern {
  const canvas = document.createElement('canvas')
  canvas.width = canvas.height = Math.round(size * ratio)
  const c = canvas.getContext('2d')!
  c.scale(canvas.width / size, canvas.height / size)
  draw(c)
  return c.createPattern(canvas, 'repeat')!
}

function line(c: CanvasRenderingContext2D, x0: number, y0: number, x1: number, y1: number): void {
  c.beginPath()
  c.moveTo(x0, y0)
  c.lineTo(x1, y1)
  c.stroke()
}

function disc(c: CanvasRenderingContext2D, x: number, y: number, r: number): void {
  c.beginPath()
  c.arc(x, y, r, 0, 7)
  c.fill()
}
