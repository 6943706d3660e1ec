import type { Point3 } from '@tidytrail/core/geometry'
import { shallowReactive } from 'vue'
import { drawSuggestions } from '../kinds/passage/draw'
import { label, traceLine, X, Y } from '../map/pen'
import { toScreenX, toScreenY } from '../map/viewport'
import { metres } from '../ui/figures'
import type { LegAnswer } from '../workers/surveyor.protocol'
import type { MakeTool, MapPointer } from './tool'

/** The path probe: two places and what lies between, shown on the card as well. */
export const probe = shallowReactive<{ from?: Point3; to?: Point3; answer?: LegAnswer }>({})

const GRAB_PX = 12

let again: () => void = () => {}
/** Asks for the way anew, when the level or the profile has changed. */
export const askAgain = () => again()

/** Asks for the path between two places; either end can be dragged. */
export const probeTool: MakeTool = (ctx) => {
  let held: 'from' | 'to' | undefined
  let fixed = false
  let asked = 0

  async function ask(): Promise<void> {
    if (!probe.from || !probe.to) return
    const mine = ++asked
    const answer = await ctx.survey.path(probe.from, probe.to)
    if (mine !== asked) return
    probe.answer = answer
    ctx.redraw()
  }
  again = () => void ask()
  const near = (p: MapPointer, at?: Point3) =>
    at !== undefined && Math.hypot(toScreenX(ctx.view, at[0]) - p.sx, toScreenY(ctx.view, at[1]) - p.sy) < GRAB_PX
  const exact = (p: MapPointer): Point3 => ctx.place(p.x, p.y, { free: true })

  return {
    id: 'probe',
    label: 'Path probe',
    key: 'p',
    stages: ['reach'],
    hint: 'Click two places to see the way between them. Drag either end to move it.',
    cursor: 'crosshair',
    down(p) {
      held = fixed && near(p, probe.from) ? 'from' : fixed && near(p, probe.to) ? 'to' : undefined
      return true
    },
    move(p, dragging) {
      if (dragging && held) probe[held] = exact(p)
      else if (probe.from && !fixed) probe.to = exact(p)
      else return
      void ask()
      ctx.redraw()
    },
    up(p) {
      if (held) {
        held = undefined
        return
      }
      if (!probe.from || fixed) {
        probe.from = exact(p)
        probe.to = probe.answer = undefined
        fixed = false
      } else {
        probe.to = exact(p)
        fixed = true
        void ask()
      }
      ctx.redraw()
    },
    press(key) {
      if (key !== 'Escape' || !probe.from) return false
      probe.from = probe.to = probe.answer = undefined
      fixed = false
      ctx.redraw()
      return true
    },
    draw(pen) {
      const { from, to, answer } = probe
      if (!from) return
      const { c, inks } = pen
      const spot = (at: Point3, letter: string) => {
        c.beginPath()
        c.moveTo(X(pen, at[0]), Y(pen, at[1]))
        c.lineTo(X(pen, at[0]), Y(pen, at[1]) - 20)
        c.strokeStyle = inks.colour.ink
        c.lineWidth = 2
        c.stroke()
        label(pen, letter, X(pen, at[0]), Y(pen, at[1]) - 28, { bold: true })
      }
      if (to) {
        const found = answer?.path.found
        c.strokeStyle = answer && !found ? inks.colour.alarm : inks.colour.lake
        c.lineWidth = 3
        c.setLineDash(answer && !found ? [0.5, 6] : [])
        c.lineCap = 'round'
        c.beginPath()
        traceLine(pen, answer?.path.found ? answer.path.line : [from, to])
        c.stroke()
        c.setLineDash([])
        if (answer?.help) drawSuggestions(pen, [answer.help], undefined)
        if (answer?.path.found)
          label(pen, metres(answer.path.lengthM), X(pen, to[0]), Y(pen, to[1]) + 18, { bold: true })
        else if (answer) label(pen, answer.why ?? 'no way', X(pen, to[0]), Y(pen, to[1]) + 18, { bold: true })
        spot(to, 'to')
      }
      spot(from, 'from')
    },
  }
}
