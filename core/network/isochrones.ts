import { boxOf, distance2, mix3, type Point3 } from '@tidytrail/core/geometry'
import FlatQueue from 'flatqueue'

/** Travel times over a plain of squares, for contour lines: row by row from the south, Infinity where nobody gets. */
export interface TimeField {
  readonly originX: number
  readonly originY: number
  readonly cellM: number
  readonly columns: number
  readonly rows: number
  readonly seconds: Float32Array
}

/** A stretch that is travelled, and when one is at its ends. */
export interface TimedStretch {
  readonly line: readonly Point3[]
  readonly fromS: number
  readonly toS: number
}

const MOST_CELLS_A_SIDE = 200
/** Beside the ways one is taken to walk on at the same speed, so far, in squares. */
const BESIDE_CELLS = 12

/** How long it takes to places on and beside stretches that are travelled (a flood of squares, Dijkstra 1959). */
export function timeField(stretches: readonly TimedStretch[], speedMps: number): TimeField | undefined {
  const points = stretches.flatMap((s) => s.line)
  if (points.length === 0) return undefined
  const tight = boxOf(points)
  const cellM = Math.max(
    0.5,
    Math.max(tight.maxX - tight.minX, tight.maxY - tight.minY) / (MOST_CELLS_A_SIDE - 2 * BESIDE_CELLS),
  )
  const box = boxOf(points, (BESIDE_CELLS + 2) * cellM)
  const columns = Math.ceil((box.maxX - box.minX) / cellM)
  const rows = Math.ceil((box.maxY - box.minY) / cellM)
  const seconds = new Float32Array(columns * rows).fill(Infinity)
  const off = new Float32Array(columns * rows).fill(Infinity)
  const queue = new FlatQueue<number>()
  const seed = ([x, y]: readonly number[], s: number) => {
    const k = Math.floor((y - box.minY) / cellM) * columns + Math.floor((x - box.minX) / cellM)
    if (s >= seconds[k]) return
    seconds[k] = s
    off[k] = 0
    queue.push(k, s)
  }
  for (const { line, fromS, toS } of stretches) {
    let total = 0
    for (let i = 1; i < line.length; i++) total += distance2(line[i - 1], line[i])
    let done = 0
    for (let i = 1; i < line.length; i++) {
      const length = distance2(line[i - 1], line[i])
      const pieces = Math.max(1, Math.ceil((2 * length) / cellM))
      for (let k = 0; k <= pieces; k++) {
        const share = total === 0 ? 0 : (done + (length * k) / pieces) / total
        seed(mix3(line[i - 1], line[i], k / pieces), fromS + (toS - fromS) * share)
      }
      done += length
    }
  }
  const step = cellM / speedMps
  while (queue.length > 0) {
    const s = queue.peekValue()!
    const k = queue.pop()!
    if (s > seconds[k]) continue
    const x = k % columns
    const y = (k - x) / columns
    for (let dy = -1; dy <= 1; dy++) {
      for (let dx = -1; dx <= 1; dx++) {
        const [i, j] = [x + dx, y + dy]
        if ((dx === 0 && dy === 0) || i < 0 || j < 0 || i >= columns || j >= rows) continue
        const far = dx !== 0 && dy !== 0 ? Math.SQRT2 : 1
        const m = j * columns + i
        if (off[k] + far > BESIDE_CELLS || s + far * step >= seconds[m]) continue
        seconds[m] = s + far * step
        off[m] = off[k] + far
        queue.push(m, seconds[m])
      }
    }
  }
  return { originX: box.minX, originY: box.minY, cellM, columns, rows, seconds }
}
