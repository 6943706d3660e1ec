import { drawBarbs, stroke, type LegDrawing } from './style'

const DASHES: Record<string, number[]> = { unbroken: [], dashes: [11, 7], dots: [0.5, 7], 'dash-dot': [11, 6, 0.5, 6] }

/** A leg as a line in the pattern of its route, or of its kind, with barbs along it. */
export function plainLeg(
  { pen: { c }, route, line, colour, width, alpha }: LegDrawing,
  pattern: string,
  wider = 0,
): void {
  c.setLineDash(DASHES[route.pattern ?? pattern])
  stroke(c, line, colour, width + wider, alpha)
  c.setLineDash([])
  c.globalAlpha = alpha
  drawBarbs(c, line, colour, width, route.travel === 'there-and-back')
}
