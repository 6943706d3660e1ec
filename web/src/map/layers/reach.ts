import { boxesMeet } from '@tidytrail/core/geometry'
import type { ReachDrawing } from '../../stores/survey'
import { pinPattern, toMetres, type Pen } from '../pen'
import { seenBox } from '../viewport'

/** Tiles are drawn so many at a time. */
const TILES_AT_ONCE = 60

/** The reach as a stipple with an inked edge; each island another stipple. */
export function* drawReach(pen: Pen, reach: ReachDrawing, strong: boolean): Generator<void, void> {
  const { c, inks } = pen
  const seen = seenBox(pen.view)
  const tiles = [...reach.tiles.values()].filter((t) => boxesMeet(t.box, seen))
  const m = toMetres(pen)
  c.lineJoin = 'round'
  // The patterns are shared: after each pause they are pinned to this map again.
  const pinned = () => inks.stipples.map((p) => pinPattern(pen, p))
  let patterns = pinned()
  c.globalAlpha = strong ? 1 : 0.55
  for (const [k, { fills }] of tiles.entries()) {
    if (k % TILES_AT_ONCE === TILES_AT_ONCE - 1) {
      yield
      patterns = pinned()
    }
    for (const { island, path } of fills) {
      c.fillStyle = patterns[Math.min(island, island % patterns.length)]
      c.fill(path, 'evenodd')
    }
  }
  c.globalAlpha = strong ? 0.9 : 0.35
  c.strokeStyle = inks.colour.pine
  c.lineWidth = (strong ? 1.3 : 0.8) * m
  for (const [k, { edges }] of tiles.entries()) {
    if (k % TILES_AT_ONCE === TILES_AT_ONCE - 1) yield
    c.stroke(edges)
  }
  c.restore()
}
