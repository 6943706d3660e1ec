import type { Box2 } from '@tidytrail/core/geometry'
import type { Ground } from '@tidytrail/core/level'
import { heightGrid } from './assets'

/** The ground as a surface: bilinear between samples, held level beyond them. */
export interface HeightField {
  readonly originX: number
  readonly originY: number
  readonly spacingM: number
  readonly columns: number
  readonly rows: number
  readonly z: Float64Array
}

/**
 * The samples of a level's ground laid out once; level ground gives a field of four equal samples, and so does ground
 * whose asset has not come yet.
 */
export function heightField(ground: Ground): HeightField {
  const h = ground.heights
  const grid = h?.assetId ? heightGrid(h.assetId) : undefined
  if (!h || (h.assetId && !grid)) {
    const z = new Float64Array(4).fill(ground.baseM)
    return { originX: 0, originY: 0, spacingM: 1, columns: 2, rows: 2, z }
  }
  const { originX, originY, spacingM } = h
  if (grid) {
    const z = Float64Array.from(grid.z)
    for (const [key, row] of Object.entries(h.changed)) {
      const j = Number(key.slice(1))
      if (j < grid.rows) z.set(row.slice(0, grid.columns), j * grid.columns)
    }
    return { originX, originY, spacingM, columns: grid.columns, rows: grid.rows, z }
  }
  const columns = h.rows[0].length
  const z = new Float64Array(columns * h.rows.length)
  h.rows.forEach((row, j) => z.set(row, j * columns))
  return { originX, originY, spacingM, columns, rows: h.rows.length, z }
}

/** One row of samples as it is now, west to east. */
export function heightRow(field: HeightField, j: number): number[] {
  return Array.from(field.z.subarray(j * field.columns, (j + 1) * field.columns))
}

/** The box within which two fields differ, undefined when they do not, or 'everywhere' when their grids do. */
export function heightChanges(before: HeightField, after: HeightField): Box2 | 'everywhere' | undefined {
  if (before === after) return undefined
  const { columns, rows, originX, originY, spacingM } = after
  const same =
    before.columns === columns &&
    before.rows === rows &&
    before.originX === originX &&
    before.originY === originY &&
    before.spacingM === spacingM
  if (!same || columns === 2) return 'everywhere'
  let minI = columns
  let maxI = -1
  let minJ = rows
  let maxJ = -1
  for (let j = 0, k = 0; j < rows; j++) {
    for (let i = 0; i < columns; i++, k++) {
      if (before.z[k] === after.z[k]) continue
      minI = Math.min(minI, i)
      maxI = Math.max(maxI, i)
      minJ = Math.min(minJ, j)
      maxJ = j
    }
  }
  if (maxI < 0) return undefined
  // The ground between two samples hangs on both; beyond the last sample it goes on level.
  const edge = (i: number, last: number, origin: number, by: number) =>
    i + by < 0 ? -Infinity : i + by > last ? Infinity : origin + (i + by) * spacingM
  return {
    minX: edge(minI, columns - 1, originX, -1),
    maxX: edge(maxI, columns - 1, originX, 1),
    minY: edge(minJ, rows - 1, originY, -1),
    maxY: edge(maxJ, rows - 1, originY, 1),
  }
}

/** Height in metres at a place, and its rise to the east and to the north, written to `out`. */
export function sampleHeight(field: HeightField, x: number, y: number, out: Float64Array): void {
  const { columns, rows, z, spacingM } = field
  const u = (x - field.originX) / spacingM
  const v = (y - field.originY) / spacingM
  const i = Math.min(columns - 2, Math.max(0, Math.floor(u)))
  const j = Math.min(rows - 2, Math.max(0, Math.floor(v)))
  const s = Math.min(1, Math.max(0, u - i))
  const t = Math.min(1, Math.max(0, v - j))
  const k = j * columns + i
  const a = z[k]
  const b = z[k + 1]
  const c = z[k + columns]
  const d = z[k + columns + 1]
  out[0] = a + (b - a) * s + (c - a) * t + (a - b - c + d) * s * t
  out[1] = u < 0 || u > columns - 1 ? 0 : (b - a + (a - b - c + d) * t) / spacingM
  out[2] = v < 0 || v > rows - 1 ? 0 : (c - a + (a - b - c + d) * s) / spacingM
}

const scratch = new Float64Array(3)

/** Height of the ground at a place, metres. */
export function heightAt(field: HeightField, x: number, y: number): number {
  sampleHeight(field, x, y, scratch)
  return scratch[0]
}
