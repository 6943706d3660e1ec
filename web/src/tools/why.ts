import { label, X, Y } from '../map/pen'
import type { Point3 } from '@tidytrail/core/geometry'
import { reactive } from 'vue'
import type { MakeTool } from './tool'

/** What was read last, for those who cannot see it on the map. */
export const why = reactive({ text: '' })

/** Point anywhere and read why the profile cannot stand there. */
export const whyTool: MakeTool = (ctx) => {
  let at: Point3 | undefined
  let text = ''
  let reached = false
  let asked = 0

  async function ask(): Promise<void> {
    if (!at) return
    const mine = ++asked
    const answer = await ctx.survey.whyNot(at)
    if (mine !== asked) return
    reached = answer?.reached ?? false
    text = answer
      ? answer.reached && answer.island > 0
        ? `can stand here, on island ${answer.island + 1}`
        : answer.text
      : 'still being worked out'
    why.text = text
    ctx.redraw()
  }

  return {
    id: 'why',
    label: 'Why not here?',
    key: 'w',
    stages: ['reach'],
    hint: 'Point anywhere to read whether the profile can stand there, and why not.',
    cursor: 'help',
    move(p) {
      at = ctx.place(p.x, p.y, { free: true })
      void ask()
    },
    surveyed: () => void ask(),
    draw(pen) {
      if (!at || !text) return
      pen.c.strokeStyle = reached ? pen.inks.colour.pine : pen.inks.colour.alarm
      pen.c.lineWidth = 2.5
      pen.c.beginPath()
      pen.c.arc(X(pen, at[0]), Y(pen, at[1]), 7, 0, 7)
      pen.c.stroke()
      label(pen, text, X(pen, at[0]), Y(pen, at[1]) - 20, { bold: true })
    },
    leave() {
      why.text = ''
      at = undefined
    },
  }
}
