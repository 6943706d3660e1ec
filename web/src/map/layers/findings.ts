import type { Finding } from '@tidytrail/core/checks'
import { plainText, X, Y, type Pen } from '../pen'

const OFFSET_PX = 13
const MANY = 400
const FAR_SCALE = 0.8

/** Findings beside their place: blockers as filled octagons, warnings as triangles, notes as rings; numbered as listed. */
export function drawFindings(pen: Pen, findings: readonly Finding[], chosen: ReadonlySet<string>): void {
  const { c, inks, view } = pen
  // From afar many would cover the map, and one another: then they are specks, but for what is chosen.
  const specks = findings.length > MANY && view.scale < FAR_SCALE
  for (let i = findings.length - 1; i >= 0; i--) {
    const f = findings[i]
    const x = X(pen, f.at[0]) + OFFSET_PX
    const y = Y(pen, f.at[1]) - OFFSET_PX
    if (x < -20 || y < -20 || x > view.width + 20 || y > view.height + 20) continue
    const strong = f.subjects.some((s) => chosen.has(s))
    if (specks && !strong) {
      c.fillStyle = inks.colour[f.severity === 'blocker' ? 'alarm' : f.severity === 'warning' ? 'ochre' : 'lake']
      c.fillRect(x - OFFSET_PX - 2, y + OFFSET_PX - 2, 4, 4)
      continue
    }
    c.lineWidth = strong ? 2.6 : 1.8
    c.lineJoin = 'round'
    if (f.severity === 'blocker') {
      c.beginPath()
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
      plainText(pen, String(i + 1), x, y, inks.colour['on-fill'], true, 11)
    } else if (f.severity === 'warning') {
      c.beginPath()
      c.moveTo(x, y - 12)
      c.lineTo(x + 12, y + 8)
      c.lineTo(x - 12, y + 8)
      c.closePath()
      c.fillStyle = inks.colour.sheet
      c.strokeStyle = inks.colour.ochre
      c.fill()
      c.stroke()
      plainText(pen, String(i + 1), x, y + 2, inks.colour.ink, true, 10)
    } else {
      c.beginPath()
      c.arc(x, y, 8, 0, 7)
      c.fillStyle = inks.colour.sheet
      c.strokeStyle = inks.colour.lake
      c.fill()
      c.stroke()
      plainText(pen, String(i + 1), x, y, inks.colour.ink, true, 10)
    }
  }
}
