import { boxesMeet, ringHolds, type Box2, type Point2 } from '@tidytrail/core/geometry'
import { meshBars } from './mesh-bars'
import type { WallTriangle } from './mesh-columns'
import { outlineBars } from './outline-bars'
import type { ReachSource } from './source'

/** What a bar belongs to. */
export const SIDE = 0
export const RIM = 1
export const EXTENT = 2
export const AREA = 3
export const COVER = 4
export const MESH = 5
/** Where a floor known by columns ends, in a fine area. */
export const FINE = 6

/**
 * Exact lines a body keeps its radius away from. A bar holds off the bodies whose floor lies between two heights, which
 * may differ from one end to the other.
 */
export interface Bars {
  readonly count: number
  /** ax, ay, bx, by of each, metres. */
  readonly line: Float64Array
  /** Lowest and highest floor held off at a, then at b, metres. */
  readonly holds: Float64Array
  readonly kind: Uint8Array
  /** Index of the solid's shape for sides and rims, of the outline for covers, of the mesh for meshes and what is fine (−1 of none); 0 for others. */
  readonly owner: Int32Array
}

/** Heights that hold off everybody. */
const ALWAYS = 1e7
/** Floors so little beyond what a bar holds are not held, metres. */
const EPS = 1e-6

/** Gathers bars one by one. */
export class BarList implements Bars {
  count = 0
  line = new Float64Array(256)
  holds = new Float64Array(256)
  kind = new Uint8Array(64)
  owner = new Int32Array(64)

  clear(): void {
    this.count = 0
  }

  add(ax: number, ay: number, bx: number, by: number, holds: readonly number[], kind: number, owner: number): void {
    if (this.goesOn(ax, ay, bx, by, holds, kind, owner)) return
    if (this.count === this.kind.length) this.grow()
    const k = this.count++
    this.line[k * 4] = ax
    this.line[k * 4 + 1] = ay
    this.line[k * 4 + 2] = bx
    this.line[k * 4 + 3] = by
    this.holds.set(holds, k * 4)
    this.kind[k] = kind
    this.owner[k] = owner
  }

  /** Does a bar go straight on from the last one, holding what that holds? Then that one is made longer. */
  private goesOn(
    ax: number,
    ay: number,
    bx: number,
    by: number,
    holds: readonly number[],
    kind: number,
    owner: number,
  ): boolean {
    const k = this.count - 1
    if (k < 0 || this.kind[k] !== kind || this.owner[k] !== owner) return false
    const { line } = this
    const n = k * 4
    if (Math.abs(line[n + 2] - ax) > 1e-9 || Math.abs(line[n + 3] - ay) > 1e-9) return false
    const dx = ax - line[n]
    const dy = ay - line[n + 1]
    const ex = bx - ax
    const ey = by - ay
    if (Math.abs(dx * ey - dy * ex) > 1e-9 || dx * ex + dy * ey < 0) return false
    const share = Math.sqrt(dx * dx + dy * dy) / Math.sqrt((dx + ex) * (dx + ex) + (dy + ey) * (dy + ey))
    for (let side = 0; side < 2; side++) {
      const a = this.holds[n + side]
      const middle = this.holds[n + 2 + side]
      const b = holds[2 + side]
      if (Math.abs(middle - holds[side]) > 1e-6 || Math.abs(a + (b - a) * share - middle) > 1e-6) return false
    }
    line[n + 2] = bx
    line[n + 3] = by
    this.holds[n + 2] = holds[2]
    this.holds[n + 3] = holds[3]
    return true
  }

  private grow(): void {
    const { line, holds, kind, owner } = this
    this.line = new Float64Array(line.length * 2)
    this.line.set(line)
    this.holds = new Float64Array(holds.length * 2)
    this.holds.set(holds)
    this.kind = new Uint8Array(kind.length * 2)
    this.kind.set(kind)
    this.owner = new Int32Array(owner.length * 2)
    this.owner.set(owner)
  }
}

/**
 * Fills a list with every bar that meets a box: sides and rims of solids, the level's extent, reach areas, covers.
 * @param solids indexes of the shapes whose outline may meet the box
 * @param walls steep triangles of meshes near it
 */
export function gatherBars(
  source: ReachSource,
  solids: readonly number[],
  walls: readonly WallTriangle[],
  box: Box2,
  into: BarList,
): void {
  into.clear()
  for (const k of solids) outlineBars(source, k, box, into)
  if (walls.length > 0) meshBars(source, walls, box, into)
  const { minX, minY, maxX, maxY } = source.extent
  const always = [-ALWAYS, ALWAYS, -ALWAYS, ALWAYS]
  const ring = (r: readonly Point2[], kind: number, owner: number) => {
    for (let a = r.length - 1, b = 0; b < r.length; a = b++) {
      const [ax, ay] = r[a]
      const [bx, by] = r[b]
      const side = { minX: Math.min(ax, bx), minY: Math.min(ay, by), maxX: Math.max(ax, bx), maxY: Math.max(ay, by) }
      if (!boxesMeet(side, box)) continue
      if (kind === AREA)
        eachShutPiece(ax, ay, bx, by, source.areas, (p, q, u, v) => into.add(p, q, u, v, always, kind, owner))
      else into.add(ax, ay, bx, by, always, kind, owner)
    }
  }
  ring(
    [
      [minX, minY],
      [maxX, minY],
      [maxX, maxY],
      [minX, maxY],
    ],
    EXTENT,
    0,
  )
  source.areas.forEach((r, k) => ring(r, AREA, k))
  source.offLimits.forEach((r, k) => ring(r, COVER, k))
}

/** How far beside a line it is asked what lies there, metres. */
const BESIDE_M = 1e-3

/** The pieces of an area's side that part open from shut: those inside another area do not. */
function eachShutPiece(
  ax: number,
  ay: number,
  bx: number,
  by: number,
  areas: readonly (readonly Point2[])[],
  each: (ax: number, ay: number, bx: number, by: number) => void,
): void {
  const length = Math.sqrt((bx - ax) ** 2 + (by - ay) ** 2)
  if (length === 0) return
  const nx = ((by - ay) / length) * BESIDE_M
  const ny = (-(bx - ax) / length) * BESIDE_M
  const open = (x: number, y: number) => areas.some((r) => ringHolds(r, x, y))
  const cuts = [0, 1]
  for (const r of areas) cutsOf(r, ax, ay, bx, by, cuts)
  cuts.sort((p, q) => p - q)
  for (let k = 1; k < cuts.length; k++) {
    const [s, t] = [cuts[k - 1], cuts[k]]
    if ((t - s) * length < 1e-4) continue
    const x = ax + ((bx - ax) * (s + t)) / 2
    const y = ay + ((by - ay) * (s + t)) / 2
    if (open(x + nx, y + ny) !== open(x - nx, y - ny))
      each(ax + (bx - ax) * s, ay + (by - ay) * s, ax + (bx - ax) * t, ay + (by - ay) * t)
  }
}

/** Corners so near a line are taken to lie on it, metres. */
const ON_LINE_M = 2e-3

/** Adds the shares of a–b at which a ring crosses or touches it. */
export function cutsOf(ring: readonly Point2[], ax: number, ay: number, bx: number, by: number, cuts: number[]): void {
  const dx = bx - ax
  const dy = by - ay
  const length2 = dx * dx + dy * dy
  const near = ON_LINE_M * Math.sqrt(length2)
  const note = (s: number) => {
    if (s > 1e-9 && s < 1 - 1e-9) cuts.push(s)
  }
  for (let p = ring.length - 1, q = 0; q < ring.length; p = q++) {
    const [cx, cy] = ring[p]
    const [ex, ey] = ring[q]
    const c = dx * (cy - ay) - dy * (cx - ax)
    const e = dx * (ey - ay) - dy * (ex - ax)
    if (Math.abs(e) <= near) note(((ex - ax) * dx + (ey - ay) * dy) / length2)
    if (c > 0 === e > 0 || c === e) continue
    const t = c / (c - e)
    note(((cx + (ex - cx) * t - ax) * dx + (cy + (ey - cy) * t - ay) * dy) / length2)
  }
}

/**
 * The part of a bar that holds off floors between two heights, written to `out` as ax, ay, bx, by.
 * @returns false when it holds off none of them
 */
export function heldPart(bars: Bars, k: number, lowM: number, highM: number, out: Float64Array): boolean {
  const { line, holds } = bars
  const n = k * 4
  let from = 0
  let to = 1
  // Held where the lowest floor held is below highM, and the highest above lowM: both go straight from end to end.
  for (let side = 0; side < 2; side++) {
    const a = side === 0 ? highM - EPS - holds[n] : holds[n + 1] - lowM - EPS
    const b = side === 0 ? highM - EPS - holds[n + 2] : holds[n + 3] - lowM - EPS
    if (a <= 0 && b <= 0) return false
    if (a > 0 && b > 0) continue
    const s = a / (a - b)
    if (a <= 0) from = Math.max(from, s)
    else to = Math.min(to, s)
  }
  if (from > to) return false
  const dx = line[n + 2] - line[n]
  const dy = line[n + 3] - line[n + 1]
  out[0] = from === 0 ? line[n] : line[n] + dx * from
  out[1] = from === 0 ? line[n + 1] : line[n + 1] + dy * from
  out[2] = to === 1 ? line[n + 2] : line[n] + dx * to
  out[3] = to === 1 ? line[n + 3] : line[n + 1] + dy * to
  return true
}
