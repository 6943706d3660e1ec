import { label, X, Y, type Pen } from '../../map/pen'

/** How it stands with a watch spot at a moment: watched, open for so long still, or not known. */
export type SpotState = { readonly watched: boolean; readonly leftS: number } | undefined

/** A watch spot: an eye, shut where nobody watches; its length of time still open beside it. */
export function drawSpot(pen: Pen, at: readonly number[], name: string, on: boolean, state: SpotState): void {
  const { c, inks, view } = pen
  const [x, y] = [X(pen, at[0]), Y(pen, at[1])]
  if (x < -40 || y < -40 || x > view.width + 40 || y > view.height + 40) return
  c.strokeStyle = c.fillStyle = on ? inks.colour.rust : inks.colour.lake
  c.lineWidth = on ? 2.2 : 1.7
  c.beginPath()
  c.moveTo(x - 9, y)
  if (state?.watched === false) {
    // A lid that is down, with its lashes.
    c.quadraticCurveTo(x, y + 8, x + 9, y)
    for (const k of [-5, 0, 5]) {
      c.moveTo(x + k, y + 3.2)
      c.lineTo(x + k * 1.4, y + 7.5)
    }
    c.stroke()
  } else {
    c.quadraticCurveTo(x, y - 9, x + 9, y)
    c.quadraticCurveTo(x, y + 9, x - 9, y)
    c.stroke()
    c.beginPath()
    c.arc(x, y, 2.6, 0, 7)
    if (state) c.fill()
    else c.stroke()
  }
  const words =
    state?.watched === false && Number.isFinite(state.leftS) ? `${name} · open ${state.leftS.toFixed(1)} s` : name
  if (words && (on || state || view.scale > 6)) label(pen, words, x, y + 18, { size: 11, bold: on })
}
