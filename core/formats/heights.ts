import { ringArea, simplifyLine, type Point2 } from '@tidytrail/core/geometry'
import type { HeightGrid } from '@tidytrail/core/ground'
import { contours } from 'd3-contour'
import { FormatError } from './error'

/** Heights that were read, and what had to be mended. */
export interface HeightsRead {
  readonly grid: HeightGrid
  /** Metres between samples, where the file says so. */
  readonly spacingM: number | undefined
  /** Where the file says its first sample lies, in its own coordinates. */
  readonly origin: readonly [number, number] | undefined
  /** What its distances were taken to be in, where it says any. */
  readonly cells?: 'metres' | 'degrees'
  /** Outlines of places without data that are kept, in columns and rows. */
  readonly holes?: readonly (readonly Point2[])[]
  readonly repairs: readonly string[]
}

/** What becomes of places without data: filled in from around them, cut off as far as they are at the edges, or kept. */
export const HOLES = ['fill', 'cut', 'keep'] as const
/** Channels of a picture heights may be in; grey is what it is, or the mean of its colours. */
export const CHANNELS = ['grey', 'red', 'green', 'blue'] as const

/** What is said by hand of a file of heights. */
export interface HeightsOptions {
  /** Heights of black and white, metres, for files that say only how high samples are beside one another. */
  readonly lowM: number
  readonly highM: number
  readonly channel?: (typeof CHANNELS)[number]
  /** What the distances of the file are in; left out, it is told by what they are. */
  readonly cells?: 'metres' | 'degrees'
  readonly holes?: (typeof HOLES)[number]
}

/** A grid without what it has no data for. */
export interface Whole {
  readonly grid: HeightGrid
  /** Columns and rows cut off in the west and south. */
  readonly cutWest: number
  readonly cutSouth: number
  /** Outlines of the places without data, in columns and rows, where they are kept. */
  readonly holes: readonly (readonly Point2[])[]
  /** What was done, in words. */
  readonly repairs: readonly string[]
}

/** Holes are told by no more outlines than this, the largest first. */
const MOST_HOLES = 200

/**
 * Heights for every sample: what has no data is filled in; at the edges it may be cut off first. Holes that are to be
 * kept are filled in too, so that there is ground to draw, and their outlines are given.
 * @throws FormatError when nothing has data
 */
export function wholeGrid(given: HeightGrid, how: HeightsOptions['holes'] = 'fill'): Whole {
  const all = given.z.length
  let missing = 0
  for (const v of given.z) if (Number.isNaN(v)) missing++
  if (missing === all) throw new FormatError('', 'none of its samples has data')
  if (missing === 0) return { grid: given, cutWest: 0, cutSouth: 0, holes: [], repairs: [] }
  const { grid, cutWest, cutSouth } = how === 'cut' ? cutToData(given) : { grid: given, cutWest: 0, cutSouth: 0 }
  const repairs: string[] = []
  if (grid !== given)
    repairs.push(
      `${(given.columns - grid.columns).toLocaleString('en')} columns and ${(given.rows - grid.rows).toLocaleString('en')} rows without data cut off`,
    )
  const holes = how === 'keep' ? outlinesOfHoles(grid) : []
  const left = grid.z.reduce((n, v) => n + Number(Number.isNaN(v)), 0)
  if (how === 'keep') repairs.push(`${samples(left)} without data kept: nobody is to go there`)
  else if (left > 0) repairs.push(...fillHoles(grid))
  if (how === 'keep') fillHoles(grid)
  const share = missing / all
  if (share > 0.25 && how === 'fill')
    repairs.push(`${Math.round(share * 100)} % of it had no data: look whether it should rather be cut off`)
  return { grid, cutWest, cutSouth, holes, repairs }
}

const samples = (n: number) => `${n.toLocaleString('en')} ${n === 1 ? 'sample' : 'samples'}`

/** The grid without the columns and rows at its edges that hold no data at all. */
function cutToData(grid: HeightGrid) {
  const { columns, rows, z } = grid
  const empty = (from: number, step: number, count: number) => {
    for (let k = 0; k < count; k++) if (!Number.isNaN(z[from + k * step])) return false
    return true
  }
  let [west, east, south, north] = [0, columns - 1, 0, rows - 1]
  while (west < east - 1 && empty(west, columns, rows)) west++
  while (east > west + 1 && empty(east, columns, rows)) east--
  while (south < north - 1 && empty(south * columns, 1, columns)) south++
  while (north > south + 1 && empty(north * columns, 1, columns)) north--
  const [wide, deep] = [east - west + 1, north - south + 1]
  if (wide === columns && deep === rows) return { grid, cutWest: 0, cutSouth: 0 }
  const cut = new Float32Array(wide * deep)
  for (let j = 0; j < deep; j++)
    cut.set(z.subarray((south + j) * columns + west, (south + j) * columns + east + 1), j * wide)
  return { grid: { columns: wide, rows: deep, z: cut }, cutWest: west, cutSouth: south }
}

function outlinesOfHoles({ columns, rows, z }: HeightGrid): Point2[][] {
  // A frame without holes about it closes those at the edges.
  const [wide, deep] = [columns + 2, rows + 2]
  const mask = new Array<number>(wide * deep).fill(0)
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) if (Number.isNaN(z[j * columns + i])) mask[(j + 1) * wide + i + 1] = 1
  const { coordinates } = contours().size([wide, deep]).contour(mask, 0.5)
  const within = (v: number, most: number) => Math.min(Math.max(v, 0), most)
  return coordinates
    .map(([ring]) => {
      // Samples lie in the middle of the squares contours are drawn about.
      const points = ring.map(([x, y]): Point2 => [within(x - 1.5, columns - 1), within(y - 1.5, rows - 1)])
      const kept = simplifyLine(
        points.flatMap((p) => [p[0], p[1]]),
        0.3,
      ).map((k) => points[k])
      kept.pop()
      return kept
    })
    .filter((ring) => ring.length >= 3 && Math.abs(ringArea(ring)) > 0.25)
    .sort((a, b) => Math.abs(ringArea(b)) - Math.abs(ringArea(a)))
    .slice(0, MOST_HOLES)
}

/** The grid with other distances between its columns, each row sampled anew. */
export function otherColumns({ columns, rows, z }: HeightGrid, wide: number): HeightGrid {
  const out = new Float32Array(wide * rows)
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < wide; i++) {
      const x = wide === 1 ? 0 : (i * (columns - 1)) / (wide - 1)
      const a = Math.min(columns - 2, Math.floor(x))
      const [p, q] = [z[j * columns + a], z[j * columns + a + 1]]
      const t = x - a
      // Beside a hole the nearer of the two tells.
      out[j * wide + i] = Number.isNaN(p) || Number.isNaN(q) ? (t < 0.5 ? p : q) : p + (q - p) * t
    }
  return { columns: wide, rows, z: out }
}

/** Fills samples that are not a number from their neighbours, ring by ring. @returns what was done, in words */
function fillHoles({ columns, rows, z }: HeightGrid): string[] {
  let holes: number[] = []
  for (let k = 0; k < z.length; k++) if (Number.isNaN(z[k])) holes.push(k)
  const count = holes.length
  if (count === 0) return []
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
  return [`${samples(count)} without data filled in from around them`]
}

/** Stretches samples so that the darkest becomes the lowest height and the brightest possible the highest. */
export function stretch(grid: HeightGrid, lowM: number, highM: number, full: number): HeightGrid {
  return { ...grid, z: grid.z.map((v) => lowM + ((highM - lowM) * v) / full) }
}
