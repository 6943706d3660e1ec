import { X, Y, type Pen } from './pen'

/** The arc a post watches is drawn so far out, pixels. */
const ARC_PX = 19

/** A peg: a dot, hollow for one that belongs to no zone or is only thought of, a bar at its back, and what is watched from it. */
export function drawPeg(
  pen: Pen,
  { at, facingRad, arcRad }: { readonly at: readonly number[]; readonly facingRad: number; readonly arcRad: number },
  colour: string,
  hollow: boolean,
): void {
  const { c } = pen
  c.strokeStyle = c.fillStyle = colour
  c.save()
  c.translate(X(pen, at[0]), Y(pen, at[1]))
  c.rotate(-facingRad)
  c.lineWidth = 2.4
  c.beginPath()
  c.moveTo(-6, -6)
  c.lineTo(-6, 6)
  c.stroke()
  c.lineWidth = 1.6
  c.beginPath()
  c.arc(0, 0, 4, 0, 7)
  if (hollow) c.stroke()
  else c.fill()
  if (arcRad > 0) {
    c.lineWidth = 1.1
    c.setLineDash([3, 2.5])
    c.beginPath()
    c.arc(0, 0, ARC_PX, -arcRad / 2, arcRad / 2)
    c.stroke()
    c.setLineDash([])
  }
  c.restore()
}
