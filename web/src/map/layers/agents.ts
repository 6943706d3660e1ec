import type { AgentMoment } from '../../stores/rehearsal'
import type { AgentInfo } from '../../workers/rehearsal.protocol'
import { label, X, Y, type Pen } from '../pen'
import { addDrop } from '../drop'

const TAIL_S = 4

/** Beyond so many agents they have no tails, and are drawn all at once. */
const MANY = 400

/** Agents: drops that point where they head, with a thin tail for the last seconds. */
export function drawAgents(
  pen: Pen,
  cast: readonly AgentInfo[],
  moment: (n: number, at?: number) => AgentMoment | undefined,
  t: number,
  chosen: ReadonlySet<string>,
): void {
  const { c, inks, view } = pen
  const many = cast.length > MANY
  /** Drops of the same ink, drawn together: of who goes on, of who cannot, of stand-ins. */
  const drops = { rust: [] as number[], alarm: [] as number[], hollow: [] as number[] }
  const names: [string, number, number, boolean][] = []
  cast.forEach((member, n) => {
    const now = moment(n)
    if (!now) return
    const x = X(pen, now.x)
    const y = Y(pen, now.y)
    if (x < -40 || y < -40 || x > view.width + 40 || y > view.height + 40) return
    const on = chosen.has(member.id)
    const ink = now.state === 'blocked' ? 'alarm' : 'rust'
    if (!many) drawTail(pen, inks.colour[ink], x, y, t, (at) => moment(n, at))
    if (on) drawRing(pen, x, y)
    drops[member.standIn ? 'hollow' : ink].push(x, y, -now.heading, Math.max(5.5, member.radiusM * view.scale))
    if (on || (cast.length <= 12 && view.scale > 3)) names.push([member.name, x, y - 22, on])
  })
  c.lineWidth = 1.6
  for (const ink of ['rust', 'alarm'] as const) {
    c.fillStyle = inks.colour[ink]
    c.strokeStyle = inks.colour.sheet
    drawDrops(c, drops[ink])
  }
  // A player's stand-in is hollow, with a double line.
  c.fillStyle = inks.colour.sheet
  c.strokeStyle = inks.colour.rust
  c.lineWidth = 4.6
  drawDrops(c, drops.hollow)
  c.strokeStyle = inks.colour.sheet
  c.lineWidth = 1.6
  drawDrops(c, drops.hollow)
  for (const [name, x, y, bold] of names) label(pen, name, x, y, { bold, size: 11 })
}

/** So many drops are drawn as one path: one by one takes longer, and a path of thousands longer still. */
const TOGETHER = 32

function drawDrops(c: CanvasRenderingContext2D, drops: readonly number[]): void {
  for (let from = 0; from < drops.length; from += 4 * TOGETHER) {
    c.beginPath()
    for (let k = from; k < Math.min(drops.length, from + 4 * TOGETHER); k += 4)
      addDrop(c, drops[k], drops[k + 1], drops[k + 2], drops[k + 3])
    c.stroke()
    c.fill()
  }
}

function drawTail(
  pen: Pen,
  colour: string,
  x: number,
  y: number,
  t: number,
  moment: (at: number) => AgentMoment | undefined,
): void {
  const { c } = pen
  c.strokeStyle = colour
  c.lineWidth = 1.6
  c.globalAlpha = 0.5
  c.beginPath()
  c.moveTo(x, y)
  for (let back = 0.4; back <= TAIL_S; back += 0.4) {
    const then = t - back >= 0 ? moment(t - back) : undefined
    if (!then) break
    c.lineTo(X(pen, then.x), Y(pen, then.y))
  }
  c.stroke()
  c.globalAlpha = 1
}

function drawRing({ c, inks }: Pen, x: number, y: number): void {
  c.strokeStyle = inks.colour.ink
  c.lineWidth = 1.5
  c.setLineDash([4, 3])
  c.beginPath()
  c.arc(x, y, 17, 0, 7)
  c.stroke()
  c.setLineDash([])
}
