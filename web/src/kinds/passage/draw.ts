import type { Level, Passage } from '@tidytrail/core/level'
import type { Suggestion } from '@tidytrail/core/reach'
import { label, X, Y, type Pen } from '../../map/pen'

/** The bow of a passage on the screen: its ends and the point it swings through. */
function bow(pen: Pen, from: readonly number[], to: readonly number[]) {
  const [ax, ay, bx, by] = [X(pen, from[0]), Y(pen, from[1]), X(pen, to[0]), Y(pen, to[1])]
  const length = Math.hypot(bx - ax, by - ay)
  const swing = Math.max(19, length * 0.22)
  // Always to the upper side, so that a bow reads as a leap whichever way it leads.
  const flip = bx < ax || (bx === ax && by > ay) ? -1 : 1
  const nx = length > 0.5 ? ((by - ay) / length) * flip : 0
  const ny = length > 0.5 ? (-(bx - ax) / length) * flip : -1
  const cx = (ax + bx) / 2 + nx * swing * 2
  const cy = (ay + by) / 2 + ny * swing * 2
  return { ax, ay, bx, by, cx, cy, mx: (ax + bx + 2 * cx) / 4, my: (ay + by + 2 * cy) / 4 }
}

interface Look {
  readonly colour: string
  readonly width: number
  readonly dash: readonly number[]
}

function drawBow(pen: Pen, p: Pick<Passage, 'kind' | 'from' | 'to' | 'twoWay'>, look: Look): void {
  const { c, inks } = pen
  const { ax, ay, bx, by, cx, cy, mx, my } = bow(pen, p.from, p.to)
  c.strokeStyle = look.colour
  c.lineWidth = look.width
  c.setLineDash([...look.dash])
  c.beginPath()
  c.moveTo(ax, ay)
  c.quadraticCurveTo(cx, cy, bx, by)
  c.stroke()
  c.setLineDash([])
  const end = (x: number, y: number, barb: boolean) => {
    c.fillStyle = inks.colour.sheet
    c.beginPath()
    if (barb) {
      const angle = Math.atan2(y - cy, x - cx)
      c.moveTo(x, y)
      c.lineTo(x - 10 * Math.cos(angle - 0.42), y - 10 * Math.sin(angle - 0.42))
      c.lineTo(x - 10 * Math.cos(angle + 0.42), y - 10 * Math.sin(angle + 0.42))
      c.closePath()
      c.fillStyle = look.colour
      c.fill()
    } else {
      c.arc(x, y, 3.6, 0, 7)
      c.fill()
      c.stroke()
    }
  }
  end(ax, ay, false)
  end(bx, by, !p.twoWay)
  c.fillStyle = inks.colour.sheet
  c.beginPath()
  c.arc(mx, my, 9.5, 0, 7)
  c.fill()
  c.lineWidth = 1.4
  c.stroke()
  c.save()
  c.translate(mx, my)
  c.beginPath()
  PICTOGRAMS[p.kind](c)
  c.stroke()
  c.restore()
}

/** Small pictures without letters, about 12 pixels across. */
const PICTOGRAMS: Record<Passage['kind'], (c: CanvasRenderingContext2D) => void> = {
  jump(c) {
    c.moveTo(-5.5, 4)
    c.quadraticCurveTo(0, -8, 5, 2.5)
    c.moveTo(5, 2.5)
    c.lineTo(1.8, 1.6)
    c.moveTo(5, 2.5)
    c.lineTo(5.6, -0.8)
  },
  drop(c) {
    c.moveTo(-5, -4)
    c.lineTo(-0.5, -4)
    c.lineTo(-0.5, 5)
    c.moveTo(-3.4, 2.2)
    c.lineTo(-0.5, 5)
    c.lineTo(2.4, 2.2)
  },
  ladder(c) {
    for (const x of [-2.6, 2.6]) {
      c.moveTo(x, -5.5)
      c.lineTo(x, 5.5)
    }
    for (const y of [-3.4, 0, 3.4]) {
      c.moveTo(-2.6, y)
      c.lineTo(2.6, y)
    }
  },
  door(c) {
    c.rect(-3.4, -5, 6.8, 10)
    c.moveTo(2, 0)
    c.arc(1.4, 0, 0.7, 0, 7)
  },
  lift(c) {
    c.rect(-4.5, -2.5, 9, 5)
    c.moveTo(-2, -4)
    c.lineTo(0, -6)
    c.lineTo(2, -4)
    c.moveTo(-2, 4)
    c.lineTo(0, 6)
    c.lineTo(2, 4)
  },
  portal(c) {
    c.ellipse(0, 0, 3, 5.4, 0, 0, 7)
    c.moveTo(1.6, 0)
    c.ellipse(0, 0, 1.4, 2.8, 0, 0, 7)
  },
  ford(c) {
    for (const y of [-3, 0, 3]) {
      c.moveTo(-5, y)
      c.quadraticCurveTo(-2.5, y - 2.4, 0, y)
      c.quadraticCurveTo(2.5, y + 2.4, 5, y)
    }
  },
}

/** Passages, bowed from end to end; locked ones barred, closed ones dashed. */
export function drawPassages(pen: Pen, level: Level, chosen: ReadonlySet<string>, hovered: string | undefined): void {
  const { inks, c } = pen
  for (const [id, p] of Object.entries(level.passages)) {
    if (p.hidden) continue
    const strong = chosen.has(id)
    const colour = strong ? inks.colour.rust : inks.colour.plum
    const dash = p.state === 'open' ? [] : p.state === 'closed' ? [7, 4] : [2, 4]
    drawBow(pen, p, { colour, width: strong ? 3 : hovered === id ? 2.6 : 2, dash })
    if (strong && !p.locked) {
      for (const end of [p.from, p.to]) {
        c.strokeStyle = inks.colour.rust
        c.lineWidth = 2
        c.beginPath()
        c.arc(X(pen, end[0]), Y(pen, end[1]), 7, 0, 7)
        c.stroke()
      }
    }
    const { mx, my } = bow(pen, p.from, p.to)
    if (pen.view.scale > 6 && p.name) label(pen, p.name, mx, my - 19, { size: 11 })
  }
}

/** Passages that could be: the same bow, faint. */
export function drawSuggestions(pen: Pen, list: readonly Suggestion[], hovered: number | undefined): void {
  list.forEach((s, n) => {
    pen.c.globalAlpha = hovered === n ? 1 : 0.6
    const colour = hovered === n ? pen.inks.colour.rust : pen.inks.colour.plum
    drawBow(
      pen,
      { kind: s.kind, from: [...s.from], to: [...s.to], twoWay: s.twoWay },
      { colour, width: 1.6, dash: [3, 3] },
    )
  })
  pen.c.globalAlpha = 1
}

/** Where on the screen the middle of a bow is, for picking it. */
export function bowMiddle(pen: Pick<Pen, 'view'>, from: readonly number[], to: readonly number[]): [number, number] {
  const { mx, my } = bow(pen as Pen, from, to)
  return [mx, my]
}
