import type { SneakPlan } from '@tidytrail/core/insight'
import { Measured } from '@tidytrail/core/insight'
import type { SneakLine } from '@tidytrail/core/level'
import { addDrop } from '../../map/drop'
import { label, traceLine, X, Y, type Pen } from '../../map/pen'

/** A sneak line: drawn as with a pencil, a tick across each corner. */
export function drawSneakLine(pen: Pen, line: SneakLine, on: boolean, words: string): void {
  const { c, inks, view } = pen
  c.strokeStyle = on ? inks.colour.rust : inks.colour.plum
  c.lineWidth = on ? 2.4 : 1.8
  c.setLineDash([1.5, 4.5])
  c.lineCap = 'round'
  c.beginPath()
  traceLine(pen, line.points)
  c.stroke()
  c.setLineDash([])
  c.lineCap = 'butt'
  c.fillStyle = inks.colour.sheet
  for (const [x, y] of on ? line.points : [line.points[0], line.points[line.points.length - 1]]) {
    c.beginPath()
    c.rect(X(pen, x) - 3.5, Y(pen, y) - 3.5, 7, 7)
    c.fill()
    c.stroke()
  }
  const [x, y] = line.points[0]
  if (on || view.scale > 4) label(pen, words, X(pen, x), Y(pen, y) - 15, { size: 11, bold: on })
}

/** So much of a full turn a ring of waiting is for every second waited. */
const TURN_S = 30

/** The plan along a sneak line: an inked thread, a ring at each wait whose arc grows with it, the tightest place crossed. */
export function drawPlan(pen: Pen, line: SneakLine, plan: SneakPlan, t: number): void {
  const { c, inks } = pen
  const measured = new Measured(line.points)
  const place = (m: number) => {
    const [x, y] = measured.at(m)
    return [X(pen, x), Y(pen, y)] as const
  }
  c.strokeStyle = inks.colour.pine
  for (const move of plan.moves) {
    const waits = move.toM - move.fromM < 1e-6
    const [ax, ay] = place(move.fromM)
    c.lineWidth = 2.2
    c.beginPath()
    if (waits) {
      const s = move.toS - move.fromS
      if (s < 1) continue
      c.arc(ax, ay, 8, -Math.PI / 2, -Math.PI / 2 + 2 * Math.PI * Math.min(1, s / TURN_S))
      c.stroke()
      label(pen, `waits ${s.toFixed(0)} s`, ax, ay + 17, { size: 11 })
      continue
    }
    c.moveTo(ax, ay)
    for (const m of [...measured.corners.filter((m) => m > move.fromM && m < move.toM), move.toM]) c.lineTo(...place(m))
    c.stroke()
  }
  const [tx, ty] = place(plan.tightest.m)
  c.strokeStyle = inks.colour.ochre
  c.lineWidth = 2.4
  c.beginPath()
  c.moveTo(tx - 6, ty - 6)
  c.lineTo(tx + 6, ty + 6)
  c.moveTo(tx + 6, ty - 6)
  c.lineTo(tx - 6, ty + 6)
  c.stroke()
  const now = planAt(plan, t)
  if (now === undefined) return
  const [x, y] = place(now)
  const [nx, ny] = place(Math.min(measured.lengthM, now + 0.5))
  c.strokeStyle = inks.colour.pine
  c.fillStyle = inks.colour.sheet
  c.lineWidth = 2
  c.beginPath()
  addDrop(c, x, y, Math.atan2(ny - y, nx - x), 8)
  c.fill()
  c.stroke()
}

/** How far along the line a plan is at a time; undefined before it sets out and once it is through. */
export function planAt(plan: SneakPlan, t: number): number | undefined {
  const move = plan.moves.find((m) => t >= m.fromS && t <= m.toS)
  if (!move) return undefined
  const share = move.toS > move.fromS ? (t - move.fromS) / (move.toS - move.fromS) : 0
  return move.fromM + share * (move.toM - move.fromM)
}
