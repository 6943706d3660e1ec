import type { Level } from '@tidytrail/core/level'
import { label, plainText, X, Y, type Pen } from '../pen'

/** The shape of a drop that points along +x, its round end at the origin. */
export function traceDrop(c: CanvasRenderingContext2D, r: number): void {
  c.beginPath()
  c.moveTo(r * 1.9, 0)
  c.bezierCurveTo(r * 1.1, -r * 0.75, r * 0.7, -r, 0, -r)
  c.arc(0, 0, r, -Math.PI / 2, Math.PI / 2, true)
  c.bezierCurveTo(r * 0.7, r, r * 1.1, r * 0.75, r * 1.9, 0)
  c.closePath()
}

/** Spawners: a doorway with the drop that will come out of it, and how many. */
export function drawSpawners(pen: Pen, level: Level, chosen: ReadonlySet<string>, hovered: string | undefined): void {
  const { c, inks, view } = pen
  for (const [id, s] of Object.entries(level.spawners)) {
    if (s.hidden) continue
    const x = X(pen, s.at[0])
    const y = Y(pen, s.at[1])
    if (x < -40 || y < -40 || x > view.width + 40 || y > view.height + 40) continue
    const on = chosen.has(id)
    c.save()
    c.translate(x, y)
    c.rotate(-s.facingRad)
    c.strokeStyle = inks.colour.ink
    c.lineWidth = on || hovered === id ? 2.4 : 1.6
    // Three sides of a doorway, open where its agents come out.
    c.beginPath()
    c.moveTo(9, -10)
    c.lineTo(-10, -10)
    c.lineTo(-10, 10)
    c.lineTo(9, 10)
    c.fillStyle = inks.colour.sheet
    c.globalAlpha = 0.85
    c.fillRect(-10, -10, 19, 20)
    c.globalAlpha = 1
    c.stroke()
    traceDrop(c, 5)
    c.fillStyle = on ? inks.colour.rust : inks.colour.pine
    c.fill()
    c.restore()
    if (s.count > 1) plainText(pen, `×${s.count}`, x, y + 18, inks.colour.ink, true, 11)
  }
}

/** Posts as a small flag with a facing, markers as a cross in a ring. */
export function drawPlaces(pen: Pen, level: Level, chosen: ReadonlySet<string>): void {
  const { c, inks } = pen
  const ink = (id: string) => (chosen.has(id) ? inks.colour.rust : inks.colour.ink)
  for (const [id, post] of Object.entries(level.posts)) {
    if (post.hidden) continue
    const [x, y] = [X(pen, post.at[0]), Y(pen, post.at[1])]
    c.strokeStyle = c.fillStyle = ink(id)
    c.lineWidth = 1.8
    c.beginPath()
    c.moveTo(x, y)
    c.lineTo(x + 14 * Math.cos(post.facingRad), y - 14 * Math.sin(post.facingRad))
    c.stroke()
    c.fillRect(x - 4, y - 4, 8, 8)
    if (pen.view.scale > 6 && post.name) label(pen, post.name, x, y + 15, { size: 11 })
  }
  for (const [id, marker] of Object.entries(level.markers)) {
    if (marker.hidden) continue
    const [x, y] = [X(pen, marker.at[0]), Y(pen, marker.at[1])]
    c.strokeStyle = ink(id)
    c.lineWidth = 1.6
    c.beginPath()
    c.arc(x, y, 6, 0, 7)
    c.moveTo(x - 3, y)
    c.lineTo(x + 3, y)
    c.moveTo(x, y - 3)
    c.lineTo(x, y + 3)
    c.stroke()
    if (pen.view.scale > 6 && marker.name) label(pen, marker.name, x, y + 16, { size: 11 })
  }
}
