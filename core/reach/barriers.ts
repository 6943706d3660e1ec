import { freeRadius, heldLines, lines } from './free'
import type { ReachMap, Spot } from './map'

/**
 * Calls with each exact line near a place: the way to the nearest place on it, and how far a body's edge is from there,
 * metres; below 0 where it is too near.
 */
export function eachBarrier(
  map: ReachMap,
  { tile, floor }: Spot,
  x: number,
  y: number,
  call: (dx: number, dy: number, gapM: number) => void,
): void {
  const n = heldLines(map.source, map.tiles[tile], floor)
  const free = freeRadius(map.source.radiusM)
  for (let k = 0; k < n; k++) {
    const ax = lines[k * 4]
    const ay = lines[k * 4 + 1]
    const ux = lines[k * 4 + 2] - ax
    const uy = lines[k * 4 + 3] - ay
    const length2 = ux * ux + uy * uy
    const t = length2 > 0 ? Math.min(1, Math.max(0, ((x - ax) * ux + (y - ay) * uy) / length2)) : 0
    const dx = ax + t * ux - x
    const dy = ay + t * uy - y
    call(dx, dy, Math.sqrt(dx * dx + dy * dy) - free)
  }
}
