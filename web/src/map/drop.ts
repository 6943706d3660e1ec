/** The shape of a drop that points along +x, its round end at the origin. */
export function traceDrop(c: CanvasRenderingContext2D, r: number): void {
  c.beginPath()
  c.moveTo(r * 1.9, 0)
  c.bezierCurveTo(r * 1.1, -r * 0.75, r * 0.7, -r, 0, -r)
  c.arc(0, 0, r, -Math.PI / 2, Math.PI / 2, true)
  c.bezierCurveTo(r * 0.7, r, r * 1.1, r * 0.75, r * 1.9, 0)
  c.closePath()
}
