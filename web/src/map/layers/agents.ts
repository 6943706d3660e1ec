import type { AgentMoment } from '../../stores/rehearsal'
import type { AgentInfo } from '../../workers/rehearsal.protocol'
import { label, X, Y, type Pen } from '../pen'
import { traceDrop } from '../drop'

const TAIL_S = 4

/** Agents: drops that point where they head, with a thin tail for the last seconds. */
export function drawAgents(
  pen: Pen,
  cast: readonly AgentInfo[],
  moment: (n: number, at?: number) => AgentMoment | undefined,
  t: number,
  chosen: ReadonlySet<string>,
): void {
  const { c, inks, view } = pen
  const withTails = cast.length <= 400
  cast.forEach((member, n) => {
    const now = moment(n)
    if (!now) return
    const x = X(pen, now.x)
    const y = Y(pen, now.y)
    if (x < -40 || y < -40 || x > view.width + 40 || y > view.height + 40) return
    const on = chosen.has(member.id)
    const colour = now.state === 'blocked' ? inks.colour.alarm : inks.colour.rust
    if (withTails) {
      c.strokeStyle = colour
      c.lineWidth = 1.6
      c.globalAlpha = 0.5
      c.beginPath()
      c.moveTo(x, y)
      for (let back = 0.4; back <= TAIL_S; back += 0.4) {
        const then = t - back >= 0 ? moment(n, t - back) : undefined
        if (!then) break
        c.lineTo(X(pen, then.x), Y(pen, then.y))
      }
      c.stroke()
      c.globalAlpha = 1
    }
    if (on) {
      c.strokeStyle = inks.colour.ink
      c.lineWidth = 1.5
      c.setLineDash([4, 3])
      c.beginPath()
      c.arc(x, y, 17, 0, 7)
      c.stroke()
      c.setLineDash([])
    }
    c.save()
    c.translate(x, y)
    c.rotate(-now.heading)
    traceDrop(c, Math.max(5.5, member.radiusM * view.scale))
    c.fillStyle = colour
    c.strokeStyle = inks.colour.sheet
    c.lineWidth = 1.6
    c.stroke()
    if (member.standIn) {
      // A player's stand-in is hollow, with a double line.
      c.strokeStyle = colour
      c.fillStyle = inks.colour.sheet
      c.lineWidth = 4.6
      c.stroke()
      c.strokeStyle = inks.colour.sheet
      c.lineWidth = 1.6
      c.stroke()
    }
    c.fill()
    c.restore()
    if (on || (cast.length <= 12 && view.scale > 3)) label(pen, member.name, x, y - 22, { bold: on, size: 11 })
  })
}
