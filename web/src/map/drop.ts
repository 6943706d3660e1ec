/** The shape of a drop that points along +x, its round end at the origin. */
export function traceDrop(c: CanvasRenderingContext2D, r: number): void {
  c.beginPath()
  addDrop(c, 0, 0, 0, r)
}

/** Adds a drop at a place to the path that is being traced. @param turn radians, clockwise on the window */
export function addDrop(c: CanvasRenderingContext2D, x: number, y: number, turn: number, r: number): void {
  const cos = Math.cos(turn) * r
  const sin = Math.sin(turn) * r
  const X = (u: number, v: number) => x + u * cos - v * sin
  const Y = (u: number, v: number) => y + u * sin + v * cos
  c.moveTo(X(1.9, 0), Y(1.9, 0))
  c.bezierCurveTo(X(1.1, -0.75), Y(1.1, -0.75), X(0.7, -1), Y(0.7, -1), X(0, -1), Y(0, -1))
  c.arc(x, y, r, turn - Math.PI / 2, turn + Math.PI / 2, true)
  c.bezierCurveTo(X(0.7, 1), Y(0.7, 1), X(1.1, 0.75), Y(1.1, 0.75), X(1.9, 0), Y(1.9, 0))
}
