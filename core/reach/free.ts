import { heldPart } from './bars'
import { freeParts, nearest, type FreeParts } from './free-parts'
import type { ReachSource } from './source'
import { TILE, type Tile } from './tile'

/** How much nearer than its radius a body may come to an exact line, so that arithmetic closes no gap, metres. */
const GRACE_M = 0.005

/** The radius that has to be free about a body's middle, metres. */
export const freeRadius = (radiusM: number): number => radiusM - Math.min(GRACE_M, radiusM * 0.1)

/** Half of what a floor rises or falls within one column, metres; 0 for ground and meshes, which are known by columns. */
export function halfRise(source: ReachSource, surface: number): number {
  if (surface < 0 || !source.body.stands) return 0
  const { riseX, riseY } = source.terrain.solids[surface]
  return ((Math.abs(riseX) + Math.abs(riseY)) * source.cellM) / 2
}

const part = new Float64Array(4)
/** The lines that hold off one floor, as `heldLines` last wrote them. */
export let lines = new Float64Array(4 * 256)

/** Writes the parts of bars that hold off a floor to `lines`. @returns how many */
export function heldLines(source: ReachSource, tile: Pick<Tile, 'held' | 'z' | 'surface'>, floor: number): number {
  const { held } = tile
  if (held.index.length === 0) return 0
  const k = held.index[floor] - 1
  if (k < 0) return 0
  const z = tile.z[floor]
  const half = halfRise(source, tile.surface[floor])
  const most = held.from[k + 1] - held.from[k]
  if (most * 4 > lines.length) lines = new Float64Array(most * 8)
  let n = 0
  for (let b = held.from[k]; b < held.from[k + 1]; b++) {
    if (heldPart(held.bars, held.by[b], z - half, z + half, part)) lines.set(part, 4 * n++)
  }
  return n
}

/** Distance from a place in a floor's column to the nearest exact line that holds it off, metres; Infinity without. */
export function lineDistance(source: ReachSource, tile: Tile, floor: number, x: number, y: number): number {
  const n = heldLines(source, tile, floor)
  return n === 0 ? Infinity : nearest(lines, n, x, y)
}

/** The place on the nearest of the lines that `awayFromLines` last found. */
export const away = new Float64Array(2)

/** Distance from a place to the nearest of the first n lines, metres; where on it is left in `away`. */
export function awayFromLines(n: number, x: number, y: number): number {
  let best = Infinity
  for (let k = 0; k < n; k++) {
    const ax = lines[k * 4]
    const ay = lines[k * 4 + 1]
    const dx = lines[k * 4 + 2] - ax
    const dy = lines[k * 4 + 3] - ay
    const length2 = dx * dx + dy * dy
    const t = length2 > 0 ? Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / length2)) : 0
    const m = Math.sqrt((x - ax - t * dx) ** 2 + (y - ay - t * dy) ** 2)
    if (m >= best) continue
    best = m
    away[0] = ax + t * dx
    away[1] = ay + t * dy
  }
  return best
}

/** The free parts of a floor's column; undefined when all of it is free. */
export function partsOf(source: ReachSource, tile: Tile, column: number, floor: number): FreeParts | undefined {
  const { extent, cellM, radiusM } = source
  const n = heldLines(source, tile, floor)
  const x0 = extent.minX + (tile.i0 + (column % TILE)) * cellM
  const y0 = extent.minY + (tile.j0 + Math.floor(column / TILE)) * cellM
  return freeParts(x0, y0, cellM, lines, n, freeRadius(radiusM))
}

/** Stretches of rims that touch by less are not joined, metres. */
const LEAST_M = 1e-3

/** Calls with each part of a floor that a part of its neighbour in direction d opens to; undefined parts are all free. */
export function eachPartBeyond(
  a: FreeParts | undefined,
  ofA: number,
  d: number,
  b: FreeParts | undefined,
  each: (ofB: number) => void,
): void {
  if (!a && !b) return each(0)
  const back = (d + 2) % 4
  if (!a) {
    for (const s of b!.sides) if (s.side === back) each(s.part)
    return
  }
  for (const s of a.sides) {
    if (s.side !== d || s.part !== ofA) continue
    if (!b) return each(0)
    for (const t of b.sides) {
      if (t.side === back && Math.min(s.to, t.to) - Math.max(s.from, t.from) > LEAST_M) each(t.part)
    }
  }
}

/** Distance between two straight lines over the map, squared; 0 when they cross. */
export function linesApart2(
  ax: number,
  ay: number,
  bx: number,
  by: number,
  cx: number,
  cy: number,
  dx: number,
  dy: number,
): number {
  const ux = bx - ax
  const uy = by - ay
  const vx = dx - cx
  const vy = dy - cy
  const c = ux * (cy - ay) - uy * (cx - ax)
  const d = ux * (dy - ay) - uy * (dx - ax)
  const a = vx * (ay - cy) - vy * (ax - cx)
  const b = vx * (by - cy) - vy * (bx - cx)
  if (c > 0 !== d > 0 && a > 0 !== b > 0) return 0
  return Math.min(
    toSegment2(ax, ay, cx, cy, vx, vy),
    toSegment2(bx, by, cx, cy, vx, vy),
    toSegment2(cx, cy, ax, ay, ux, uy),
    toSegment2(dx, dy, ax, ay, ux, uy),
  )
}

function toSegment2(x: number, y: number, ax: number, ay: number, ux: number, uy: number): number {
  const px = x - ax
  const py = y - ay
  const length2 = ux * ux + uy * uy
  const t = length2 > 0 ? Math.min(1, Math.max(0, (px * ux + py * uy) / length2)) : 0
  const ex = px - t * ux
  const ey = py - t * uy
  return ex * ex + ey * ey
}
