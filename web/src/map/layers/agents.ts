import type { Level } from '@tidytrail/core/level'
import type { AgentMoment } from '../../stores/rehearsal'
import type { AgentInfo } from '../../workers/rehearsal.protocol'
import { label, X, Y, type Pen } from '../pen'
import { dropOf, lookOf, STUCK, type DropLook } from './drop-of'
import { ManyDrops, type Drop } from './many-drops'

const TAIL_S = 4

/** Beyond so many agents they have no tails, are smaller, and are drawn all at once. */
const MANY = 400

const manyDrops = new ManyDrops()

/** Agents: drops that point where they head, with a thin tail for the last seconds. */
export function drawAgents(
  pen: Pen,
  cast: readonly AgentInfo[],
  moment: (n: number, at?: number) => AgentMoment | undefined,
  t: number,
  chosen: ReadonlySet<string>,
  factions: Level['factions'],
): void {
  const { inks, view } = pen
  const many = cast.length > MANY
  const looks = new Map<string | null, DropLook>(Object.entries(factions).map(([id, f]) => [id, lookOf(f)]))
  const drops: Drop[] = []
  const names: [string, number, number, boolean][] = []
  cast.forEach((member, n) => {
    const now = moment(n)
    if (!now) return
    const x = X(pen, now.x)
    const y = Y(pen, now.y)
    if (x < -40 || y < -40 || x > view.width + 40 || y > view.height + 40) return
    const on = chosen.has(member.id)
    const own = looks.get(member.factionId) ?? lookOf(undefined)
    const look = now.state === 'blocked' ? STUCK : own
    if (!many) drawTail(pen, inks.colour[look.ink], x, y, t, (at) => moment(n, at))
    if (on) drawRing(pen, x, y)
    const r = Math.max(many ? 3.5 : 5.5, member.radiusM * view.scale)
    drops.push({ look: member.standIn ? { ...look, hollow: true } : look, x, y, turn: -now.heading, r })
    if (on || (cast.length <= 12 && view.scale > 3)) names.push([member.name, x, y - 22, on])
  })
  if (many) manyDrops.draw(pen, drops)
  else for (const { look, x, y, turn, r } of drops) dropOf(inks, pen.c, look, x, y, turn, r)
  for (const [name, x, y, bold] of names) label(pen, name, x, y, { bold, size: 11 })
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
