import type { ReachDrawing } from '../../stores/survey'
import { inMetres, pinPattern, type Pen } from '../pen'

/** The reach as a stipple with an inked edge; each island another stipple. */
export function drawReach(pen: Pen, reach: ReachDrawing, strong: boolean): void {
  const { c, inks } = pen
  inMetres(pen, (m) => {
    for (const { fills } of reach.tiles.values()) {
      for (const { island, path } of fills) {
        c.fillStyle = pinPattern(pen, inks.stipples[Math.min(island, island % inks.stipples.length)])
        c.globalAlpha = strong ? 1 : 0.55
        c.fill(path, 'evenodd')
      }
    }
    c.globalAlpha = strong ? 0.9 : 0.35
    c.strokeStyle = inks.colour.pine
    c.lineWidth = (strong ? 1.3 : 0.8) * m
    c.lineJoin = 'round'
    for (const { edges } of reach.tiles.values()) c.stroke(edges)
    c.globalAlpha = 1
  })
}
