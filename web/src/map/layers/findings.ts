import type { Finding } from '@tidytrail/core/checks'
import { plainText, X, Y, type Pen } from '../pen'
import { signsOf } from '../signs'

/** Signs stand so far beside their place, pixels. */
const OFFSET_PX = 13
/** More signs than this are specks from afar. */
const MANY = 120
/** So many are drawn at a time. */
const AT_ONCE = 60
const FAR_SCALE = 0.8
const INK = { blocker: 'alarm', warning: 'ochre', note: 'lake' } as const

/**
 * Findings beside their place: blockers as filled octagons, warnings as triangles, notes as rings; numbered as listed.
 * Where several are near each other there is one sign, of the gravest, which says how many more there are.
 */
export function* drawFindings(
  pen: Pen,
  findings: readonly Finding[],
  chosen: ReadonlySet<string>,
): Generator<void, void> {
  const { c, inks, view } = pen
  const signs = signsOf(findings, view.scale)
  // From afar many would cover the map: then they are specks, but for what is chosen.
  const specks = signs.length > MANY && view.scale < FAR_SCALE
  for (let i = signs.length - 1; i >= 0; i--) {
    if (i % AT_ONCE === 0) yield
    const { members, at } = signs[i]
    const x = X(pen, at[0]) + OFFSET_PX
    const y = Y(pen, at[1]) - OFFSET_PX
    if (x < -40 || y < -20 || x > view.width + 20 || y > view.height + 20) continue
    const strong = members.some((m) => findings[m].subjects.some((s) => chosen.has(s)))
    const { severity } = findings[members[0]]
    if (specks && !strong) {
      c.fillStyle = inks.colour[INK[severity]]
      c.fillRect(x - OFFSET_PX - 2, y + OFFSET_PX - 2, 4, 4)
      continue
    }
    if (members.length > 1) drawMore(pen, `+${members.length - 1}`, x, y)
    drawSign(pen, severity, String(members[0] + 1), x, y, strong)
  }
}

/** How many more findings a sign stands for: a tab at its right. */
function drawMore(pen: Pen, text: string, x: number, y: number): void {
  const { c, inks } = pen
  const wide = 12 + 6.5 * text.length
  c.beginPath()
  c.rect(x, y - 7, wide, 14)
  c.lineWidth = 1.2
  c.fillStyle = inks.colour.sheet
  c.strokeStyle = inks.colour.ink
  c.fill()
  c.stroke()
  plainText(pen, text, x + wide / 2 + 4.5, y, inks.colour.ink, true, 10)
}

function drawSign(pen: Pen, severity: Finding['severity'], text: string, x: number, y: number, strong: boolean): void {
  const { c, inks } = pen
  c.lineWidth = strong ? 2.6 : 1.8
  c.lineJoin = 'round'
  c.beginPath()
  if (severity === 'blocker') {
    for (let k = 0; k < 8; k++) {
      const a = Math.PI / 8 + (k * Math.PI) / 4
      const r = strong ? 12 : 10.5
      if (k === 0) c.moveTo(x + r * Math.cos(a), y + r * Math.sin(a))
      else c.lineTo(x + r * Math.cos(a), y + r * Math.sin(a))
    }
    c.closePath()
    c.fillStyle = inks.colour.alarm
    c.strokeStyle = inks.colour.sheet
    c.stroke()
    c.fill()
    plainText(pen, text, x, y, inks.colour['on-fill'], true, text.length > 2 ? 9 : 11)
    return
  }
  if (severity === 'warning') {
    c.moveTo(x, y - 12)
    c.lineTo(x + 12, y + 8)
    c.lineTo(x - 12, y + 8)
    c.closePath()
  } else c.arc(x, y, 8, 0, 7)
  c.fillStyle = inks.colour.sheet
  c.strokeStyle = inks.colour[INK[severity]]
  c.fill()
  c.stroke()
  plainText(pen, text, x, y + (severity === 'warning' ? 2 : 0), inks.colour.ink, true, text.length > 2 ? 8 : 10)
}
