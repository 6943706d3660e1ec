import type { Box2 } from '@tidytrail/core/geometry'
import { isUpright, MOST_PLAIN } from './mesh-bars'
import { meshSurface, PlumbLine, triangleAt, type MeshShape, type Terrain } from '@tidytrail/core/ground'

/** A triangle too steep to stand on: something a body keeps away from. */
export interface WallTriangle {
  readonly shape: MeshShape
  /** Which of the terrain's meshes it belongs to. */
  readonly mesh: number
  /** Does it stand upright, and bar bodies as an exact line? */
  upright: boolean
  /** Its corners, nine numbers. */
  readonly xyz: Float64Array
  readonly lowM: number
  readonly highM: number
}

/** A square of columns: place of the first one's middle, and how many lie on a side. */
export interface Window {
  readonly x0: number
  readonly y0: number
  readonly cellM: number
  readonly side: number
}

/** Called with each stretch of a column inside a mesh, and how steep its top is. */
export type TakeSpan = (column: number, baseM: number, topM: number, surface: number, rise: number) => void

const line = new PlumbLine()
const xyz = new Float64Array(9)

/**
 * Drops a plumb line through the meshes in the middle of every column of a window, and gathers their steep triangles
 * within a margin around it.
 */
export function gatherMeshes(
  terrain: Terrain,
  window: Window,
  marginM: number,
  maxRise: number,
  take: TakeSpan,
): WallTriangle[] {
  const walls: WallTriangle[] = []
  if (terrain.meshes.length === 0) return walls
  const { x0, y0, cellM, side } = window
  const last = (side - 1) * cellM
  const box: Box2 = { minX: x0 - marginM, minY: y0 - marginM, maxX: x0 + last + marginM, maxY: y0 + last + marginM }
  terrain.meshes.forEach((shape, k) => {
    const m = shape.box
    if (m.minX > box.maxX || m.maxX < box.minX || m.minY > box.maxY || m.maxY < box.minY) return
    const crossings = new Map<number, number[]>()
    const { up, rise } = shape
    for (const t of shape.near(box)) {
      shape.corners(t, xyz)
      if (rise[t] > maxRise) {
        const lowM = Math.min(xyz[2], xyz[5], xyz[8])
        const highM = Math.max(xyz[2], xyz[5], xyz[8])
        walls.push({ shape, mesh: k, upright: isUpright(xyz), xyz: xyz.slice(), lowM, highM })
      }
      if (up[t] === 0) continue
      const minX = Math.min(xyz[0], xyz[3], xyz[6])
      const maxX = Math.max(xyz[0], xyz[3], xyz[6])
      const minY = Math.min(xyz[1], xyz[4], xyz[7])
      const maxY = Math.max(xyz[1], xyz[4], xyz[7])
      const i1 = Math.max(0, Math.ceil((minX - x0) / cellM - 1e-6))
      const i2 = Math.min(side - 1, Math.floor((maxX - x0) / cellM + 1e-6))
      const j1 = Math.max(0, Math.ceil((minY - y0) / cellM - 1e-6))
      const j2 = Math.min(side - 1, Math.floor((maxY - y0) / cellM + 1e-6))
      for (let j = j1; j <= j2; j++) {
        for (let i = i1; i <= i2; i++) {
          const z = triangleAt(xyz, x0 + i * cellM, y0 + j * cellM)
          if (z !== z) continue
          const column = j * side + i
          const list = crossings.get(column)
          if (list) list.push(t, z)
          else crossings.set(column, [t, z])
        }
      }
    }
    for (const [column, list] of crossings) {
      line.clear()
      for (let n = 0; n < list.length; n += 2) line.cross(list[n + 1], up[list[n]], rise[list[n]])
      line.spans((baseM, topM, r) => take(column, baseM, topM, meshSurface(k), r))
    }
  })
  if (walls.reduce((n, w) => n + Number(w.upright), 0) > MOST_PLAIN) for (const wall of walls) wall.upright = false
  return walls
}

const px = new Float64Array(8)
const py = new Float64Array(8)
const pz = new Float64Array(8)
const qx = new Float64Array(8)
const qy = new Float64Array(8)
const qz = new Float64Array(8)

/** Cuts the polygon in p at a height, into q and back; `side` 1 keeps what is above, −1 what is below. */
function cutAt(n: number, z: number, side: 1 | -1): number {
  let m = 0
  for (let a = n - 1, b = 0; b < n; a = b++) {
    const da = (pz[a] - z) * side
    const db = (pz[b] - z) * side
    if (da > 0 !== db > 0) {
      const t = da / (da - db)
      qx[m] = px[a] + (px[b] - px[a]) * t
      qy[m] = py[a] + (py[b] - py[a]) * t
      qz[m++] = z
    }
    if (db > 0) {
      qx[m] = px[b]
      qy[m] = py[b]
      qz[m++] = pz[b]
    }
  }
  for (let k = 0; k < m; k++) {
    px[k] = qx[k]
    py[k] = qy[k]
    pz[k] = qz[k]
  }
  return m
}

/**
 * Distance over the map from a place to the part of a triangle between two heights, metres; Infinity when no part of
 * it lies between them.
 */
export function gapToWall(wall: WallTriangle, x: number, y: number, lowM: number, highM: number): number {
  if (wall.highM <= lowM || wall.lowM >= highM) return Infinity
  for (let k = 0; k < 3; k++) {
    px[k] = wall.xyz[k * 3]
    py[k] = wall.xyz[k * 3 + 1]
    pz[k] = wall.xyz[k * 3 + 2]
  }
  let n = 3
  if (wall.lowM <= lowM) n = cutAt(n, lowM, 1)
  if (n > 0 && wall.highM >= highM) n = cutAt(n, highM, -1)
  if (n === 0) return Infinity
  let best2 = Infinity
  let inside = false
  for (let a = n - 1, b = 0; b < n; a = b++) {
    const dx = px[b] - px[a]
    const dy = py[b] - py[a]
    const length2 = dx * dx + dy * dy
    const t = length2 > 0 ? Math.min(1, Math.max(0, ((x - px[a]) * dx + (y - py[a]) * dy) / length2)) : 0
    const ex = x - px[a] - t * dx
    const ey = y - py[a] - t * dy
    best2 = Math.min(best2, ex * ex + ey * ey)
    if (py[b] > y !== py[a] > y && x < ((px[a] - px[b]) * (y - py[b])) / (py[a] - py[b]) + px[b]) inside = !inside
  }
  return inside ? 0 : Math.sqrt(best2)
}

/**
 * Where the upright plane through two places, one beside the other along an axis, cuts a wall triangle between them:
 * writes the lowest and highest point to `out`. @returns false when it does not cut it there
 */
export function wallAcross(
  wall: WallTriangle,
  from: number,
  to: number,
  at: number,
  alongX: boolean,
  out: Float64Array,
): boolean {
  const { xyz } = wall
  const u = alongX ? 0 : 1
  const v = alongX ? 1 : 0
  let cuts = 0
  for (let p = 2, q = 0; q < 3; p = q++) {
    const vp = xyz[p * 3 + v] - at
    const vq = xyz[q * 3 + v] - at
    if (vp > 0 === vq > 0) continue
    const t = vp / (vp - vq)
    px[cuts] = xyz[p * 3 + u] + (xyz[q * 3 + u] - xyz[p * 3 + u]) * t
    pz[cuts] = xyz[p * 3 + 2] + (xyz[q * 3 + 2] - xyz[p * 3 + 2]) * t
    cuts++
  }
  if (cuts < 2) return false
  let u0 = px[0]
  let u1 = px[1]
  let z0 = pz[0]
  let z1 = pz[1]
  if (u1 < u0) [u0, u1, z0, z1] = [u1, u0, z1, z0]
  if (u1 <= from || u0 >= to) return false
  const slope = u1 > u0 ? (z1 - z0) / (u1 - u0) : 0
  if (u0 < from) z0 += slope * (from - u0)
  if (u1 > to) z1 -= slope * (u1 - to)
  out[0] = Math.min(z0, z1)
  out[1] = Math.max(z0, z1)
  return true
}
