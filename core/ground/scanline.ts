import type { Point2 } from '@tidytrail/core/geometry'

const crossings: number[] = []

/**
 * Calls `each` with every span [x0, x1] of the ring on the horizontal line at y, west to east (even-odd rule).
 */
export function eachSpanAt(ring: readonly Point2[], y: number, each: (x0: number, x1: number) => void): void {
  crossings.length = 0
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const yi = ring[i][1]
    const yj = ring[j][1]
    if (yi > y === yj > y) continue
    crossings.push(ring[i][0] + ((ring[j][0] - ring[i][0]) * (y - yi)) / (yj - yi))
  }
  crossings.sort((a, b) => a - b)
  for (let k = 0; k + 1 < crossings.length; k += 2) each(crossings[k], crossings[k + 1])
}
