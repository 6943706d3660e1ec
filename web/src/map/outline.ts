import { traceLine, X, Y, type Pen } from './pen'

/** The frame round something chosen that has no outline of its own. */
export function drawFrameChosen(pen: Pen, ring: readonly (readonly number[])[]): void {
  const { c, inks } = pen
  c.strokeStyle = inks.colour.rust
  c.lineWidth = 2.5
  c.setLineDash([3, 5])
  c.beginPath()
  traceLine(pen, ring, true)
  c.stroke()
  c.setLineDash([])
}

/** The outline of a chosen polygon, with a handle at each corner. */
export function drawRingChosen(pen: Pen, ring: readonly (readonly number[])[], withHandles: boolean): void {
  const { c, inks } = pen
  c.strokeStyle = inks.colour.rust
  c.lineWidth = 2.5
  c.beginPath()
  traceLine(pen, ring, true)
  c.stroke()
  if (!withHandles || ring.length > 200) return
  c.fillStyle = inks.colour.sheet
  c.lineWidth = 2
  for (const [x, y] of ring) {
    c.beginPath()
    c.rect(X(pen, x) - 4.5, Y(pen, y) - 4.5, 9, 9)
    c.fill()
    c.stroke()
  }
}
