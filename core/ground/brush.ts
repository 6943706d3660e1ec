import { distanceToSegment } from '@tidytrail/core/geometry'
import { heightAt, type HeightField } from './heights'

export const BRUSHES = ['raise', 'lower', 'level', 'smooth', 'ramp'] as const
export type BrushKind = (typeof BRUSHES)[number]

/** One dab of a brush on the heights. Metres. */
export interface Dab {
  readonly kind: BrushKind
  readonly x: number
  readonly y: number
  readonly radiusM: number
  /** 0 to 1: for raising and lowering metres a dab, for the others the share of the way gone. */
  readonly strength: number
  /** Height to level to. */
  readonly targetM?: number
  /** Where a ramp began; its height runs from there to the height of the ground under the dab when the stroke began. */
  readonly from?: readonly [number, number, number]
  readonly toM?: number
}

/** How much of a dab is left at a distance from its middle: all in the middle, nothing at its edge, smooth between. */
function falloff(share: number): number {
  const t = Math.max(0, 1 - share)
  return t * t * (3 - 2 * t)
}

/**
 * The rows of samples a dab changes, by their number from the south; an empty record when it touches none.
 */
export function dab(field: HeightField, d: Dab): Record<number, number[]> {
  const { columns, rows, originX, originY, spacingM, z } = field
  const box =
    d.kind === 'ramp' && d.from
      ? [Math.min(d.x, d.from[0]), Math.min(d.y, d.from[1]), Math.max(d.x, d.from[0]), Math.max(d.y, d.from[1])]
      : [d.x, d.y, d.x, d.y]
  const i1 = Math.max(0, Math.ceil((box[0] - d.radiusM - originX) / spacingM))
  const i2 = Math.min(columns - 1, Math.floor((box[2] + d.radiusM - originX) / spacingM))
  const j1 = Math.max(0, Math.ceil((box[1] - d.radiusM - originY) / spacingM))
  const j2 = Math.min(rows - 1, Math.floor((box[3] + d.radiusM - originY) / spacingM))
  const changed: Record<number, number[]> = {}
  if (i2 < i1) return changed
  for (let j = j1; j <= j2; j++) {
    const row = Array.from(z.subarray(j * columns, (j + 1) * columns))
    let touched = false
    for (let i = i1; i <= i2; i++) {
      const x = originX + i * spacingM
      const y = originY + j * spacingM
      const away =
        d.kind === 'ramp' && d.from
          ? distanceToSegment(x, y, d.from[0], d.from[1], d.x, d.y)
          : Math.sqrt((x - d.x) ** 2 + (y - d.y) ** 2)
      if (away > d.radiusM) continue
      const k = j * columns + i
      const by = falloff(away / d.radiusM) * d.strength
      const now = Math.round(newHeight(field, d, x, y, i, j, z[k], by) * 1000) / 1000
      if (now === z[k]) continue
      row[i] = now
      touched = true
    }
    if (touched) changed[j] = row
  }
  return changed
}

function newHeight(
  { columns, rows, z }: HeightField,
  d: Dab,
  x: number,
  y: number,
  i: number,
  j: number,
  old: number,
  by: number,
): number {
  switch (d.kind) {
    case 'raise':
      return old + by
    case 'lower':
      return old - by
    case 'level':
      return old + ((d.targetM ?? old) - old) * by
    case 'smooth': {
      let sum = 0
      let n = 0
      for (let dj = -1; dj <= 1; dj++) {
        for (let di = -1; di <= 1; di++) {
          const q = i + di
          const r = j + dj
          if (q < 0 || r < 0 || q >= columns || r >= rows) continue
          sum += z[r * columns + q]
          n++
        }
      }
      return old + (sum / n - old) * by
    }
    case 'ramp': {
      if (!d.from || d.toM === undefined) return old
      const dx = d.x - d.from[0]
      const dy = d.y - d.from[1]
      const length2 = dx * dx + dy * dy
      if (length2 === 0) return old
      const t = Math.min(1, Math.max(0, ((x - d.from[0]) * dx + (y - d.from[1]) * dy) / length2))
      // Its bed is flat across, and gives way to the old ground only towards the edge.
      const share = Math.min(1, 2 * by)
      return old + (d.from[2] + (d.toM - d.from[2]) * t - old) * share
    }
  }
}

/** Heights for a level that has none yet: all at one height, as fine as a size allows. */
export function flatRows(
  extent: { minX: number; minY: number; maxX: number; maxY: number },
  baseM: number,
): { originX: number; originY: number; spacingM: number; rows: number[][] } {
  const wide = extent.maxX - extent.minX
  const deep = extent.maxY - extent.minY
  const spacingM = Math.max(1, Math.ceil(Math.max(wide, deep) / 600))
  const columns = Math.max(2, Math.ceil(wide / spacingM) + 1)
  const count = Math.max(2, Math.ceil(deep / spacingM) + 1)
  const rows = Array.from({ length: count }, () => new Array<number>(columns).fill(baseM))
  return { originX: extent.minX, originY: extent.minY, spacingM, rows }
}

/** Slope along a straight line on the ground, its steepest stretch sampled every so many metres. */
export function steepestAlong(
  field: HeightField,
  a: readonly number[],
  b: readonly number[],
  everyM = 0.5,
): { rise: number } {
  const length = Math.sqrt((b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2)
  const pieces = Math.max(1, Math.ceil(length / everyM))
  let rise = 0
  let before = heightAt(field, a[0], a[1])
  for (let k = 1; k <= pieces; k++) {
    const now = heightAt(field, a[0] + ((b[0] - a[0]) * k) / pieces, a[1] + ((b[1] - a[1]) * k) / pieces)
    rise = Math.max(rise, Math.abs(now - before) / (length / pieces || 1))
    before = now
  }
  return { rise }
}
