import type { Ground } from '@tidytrail/core/level'

/** The ground as a surface: bilinear between samples, held level beyond them. */
export interface HeightField {
  readonly originX: number
  readonly originY: number
  readonly spacingM: number
  readonly columns: number
  readonly rows: number
  readonly z: Float64Array
}

/** The samples of a level's ground laid out once; level ground gives a field of four equal samples. */
export function heightField(ground: Ground): HeightField {
  const h = ground.heights
  if (!h) {
    const z = new Float64Array(4).fill(ground.baseM)
    return { originX: 0, originY: 0, spacingM: 1, columns: 2, rows: 2, z }
  }
  const columns = h.rows[0].length
  const z = new Float64Array(columns * h.rows.length)
  h.rows.forEach((row, j) => z.set(row, j * columns))
  return { originX: h.originX, originY: h.originY, spacingM: h.spacingM, columns, rows: h.rows.length, z }
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
