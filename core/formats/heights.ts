import type { HeightGrid } from '@tidytrail/core/ground'
import { FormatError } from './error'

/** Heights that were read, and what had to be mended. */
export interface HeightsRead {
  readonly grid: HeightGrid
  /** Metres between samples, where the file says so. */
  readonly spacingM: number | undefined
  /** Where the file says its first sample lies, in its own coordinates. */
  readonly origin: readonly [number, number] | undefined
  readonly repairs: readonly string[]
}

/**
 * Fills samples that are not a number from their neighbours, ring by ring.
 * @returns what was done, in words
 * @throws FormatError when more than half of all samples are missing
 */
export function fillHoles({ columns, rows, z }: HeightGrid): string[] {
  let holes: number[] = []
  for (let k = 0; k < z.length; k++) if (Number.isNaN(z[k])) holes.push(k)
  const count = holes.length
  if (count === 0) return []
  if (count * 2 > z.length) {
    throw new FormatError(
      '',
      `${count.toLocaleString('en')} of ${z.length.toLocaleString('en')} samples have no data: too many to fill in`,
    )
  }
  while (holes.length > 0) {
    const filled: [number, number][] = []
    const left: number[] = []
    for (const k of holes) {
      const i = k % columns
      const j = (k - i) / columns
      let sum = 0
      let n = 0
      for (const [di, dj] of [
        [1, 0],
        [-1, 0],
        [0, 1],
        [0, -1],
      ]) {
        if (i + di < 0 || i + di >= columns || j + dj < 0 || j + dj >= rows) continue
        const v = z[k + di + dj * columns]
        if (Number.isNaN(v)) continue
        sum += v
        n++
      }
      if (n > 0) filled.push([k, sum / n])
      else left.push(k)
    }
    for (const [k, v] of filled) z[k] = v
    holes = left
  }
  return [`${count.toLocaleString('en')} ${count === 1 ? 'sample' : 'samples'} without data filled in from around them`]
}

/** Stretches samples so that the darkest becomes the lowest height and the brightest possible the highest. */
export function stretch(grid: HeightGrid, lowM: number, highM: number, full: number): HeightGrid {
  return { ...grid, z: grid.z.map((v) => lowM + ((highM - lowM) * v) / full) }
}
