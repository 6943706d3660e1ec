import { boxesMeet, ringHolds, type Box2 } from '@tidytrail/core/geometry'
import type { SolidShape } from './footprint'
import { topAt } from './footprint'
import { heightAt } from './heights'
import type { MeshShape } from './mesh'
import type { Terrain } from './terrain'

/** What a line of sight only grazes does not stop it, metres. */
export const EPS = 1e-6

/**
 * Can one place be seen from another: is the straight line between them free of ground, and of solids and meshes that
 * block sight? Exact for solids and meshes; ground is looked at twice for each square of its grid. Metres.
 */
export function canSee(
  terrain: Terrain,
  ax: number,
  ay: number,
  az: number,
  bx: number,
  by: number,
  bz: number,
): boolean {
  const box = { minX: Math.min(ax, bx), minY: Math.min(ay, by), maxX: Math.max(ax, bx), maxY: Math.max(ay, by) }
  for (const k of terrain.near(box)) {
    const shape = terrain.solids[k]
    if (shape.source.blocksSight && solidBlocks(shape, ax, ay, az, bx - ax, by - ay, bz - az)) return false
  }
  for (const mesh of terrain.meshes) {
    if (mesh.source.blocksSight && boxesMeet(mesh.box, box) && meshBlocks(mesh, box, ax, ay, az, bx, by, bz))
      return false
  }
  return !groundBlocks(terrain, ax, ay, az, bx, by, bz)
}

const cuts: number[] = []
let low = 0
let high = 0

/** Narrows a stretch to where something that runs straight from p to q along another is above zero; false for nowhere. */
function narrow(p: number, q: number, from: number, to: number, l: number, h: number): boolean {
  if (p <= 0 && q <= 0) return false
  low = l
  high = h
  if (p > 0 && q > 0) return true
  const t = from + ((to - from) * p) / (p - q)
  if (p <= 0) low = Math.max(low, t)
  else high = Math.min(high, t)
  return true
}

/** Does a box lie all on one side of a line through two places? */
export function liesBeside({ minX, minY, maxX, maxY }: Box2, ax: number, ay: number, dx: number, dy: number): boolean {
  const [l, r, b, t] = [dy * (minX - ax), dy * (maxX - ax), dx * (minY - ay), dx * (maxY - ay)]
  return (b > l && b > r && t > l && t > r) || (b < l && b < r && t < l && t < r)
}

export function solidBlocks(
  shape: SolidShape,
  ax: number,
  ay: number,
  az: number,
  dx: number,
  dy: number,
  dz: number,
): boolean {
  const { ring, baseM } = shape
  if (Math.max(az, az + dz) <= baseM || Math.min(az, az + dz) >= highest(shape)) return false
  cuts.length = 0
  cuts.push(0, 1)
  for (let p = ring.length - 1, q = 0; q < ring.length; p = q++) {
    const [cx, cy] = ring[p]
    const c = dx * (cy - ay) - dy * (cx - ax)
    const e = dx * (ring[q][1] - ay) - dy * (ring[q][0] - ax)
    if (c > 0 === e > 0) continue
    const t = c / (c - e)
    const ox = cx + (ring[q][0] - cx) * t - ax
    const oy = cy + (ring[q][1] - cy) * t - ay
    const s = (ox * dx + oy * dy) / (dx * dx + dy * dy)
    if (s > 0 && s < 1) cuts.push(s)
  }
  cuts.sort((p, q) => p - q)
  for (let k = 1; k < cuts.length; k++) {
    const from = cuts[k - 1]
    const to = cuts[k]
    if (to - from < 1e-9) continue
    const mid = (from + to) / 2
    if (!ringHolds(ring, ax + dx * mid, ay + dy * mid)) continue
    // Between base and top somewhere on this stretch: both differences run straight along it.
    const foot = az - baseM - EPS
    if (!narrow(foot + dz * from, foot + dz * to, from, to, from, to)) continue
    const [l, h] = [low, high]
    const under = topAt(shape, ax + dx * from, ay + dy * from) - (az + dz * from) - EPS
    const underAtEnd = topAt(shape, ax + dx * to, ay + dy * to) - (az + dz * to) - EPS
    if (!narrow(under, underAtEnd, from, to, l, h)) continue
    if (low < high) return true
  }
  return false
}

export function highest(shape: SolidShape): number {
  let m = -Infinity
  for (const [x, y] of shape.ring) m = Math.max(m, topAt(shape, x, y))
  return m
}

const xyz = new Float64Array(9)

/** Does a triangle of a mesh lie across the line? (Möller and Trumbore 1997) */
export function meshBlocks(
  mesh: MeshShape,
  box: Parameters<MeshShape['near']>[0],
  ax: number,
  ay: number,
  az: number,
  bx: number,
  by: number,
  bz: number,
): boolean {
  const [dx, dy, dz] = [bx - ax, by - ay, bz - az]
  for (const t of mesh.near(box)) {
    mesh.corners(t, xyz)
    const [e1x, e1y, e1z] = [xyz[3] - xyz[0], xyz[4] - xyz[1], xyz[5] - xyz[2]]
    const [e2x, e2y, e2z] = [xyz[6] - xyz[0], xyz[7] - xyz[1], xyz[8] - xyz[2]]
    const px = dy * e2z - dz * e2y
    const py = dz * e2x - dx * e2z
    const pz = dx * e2y - dy * e2x
    const det = e1x * px + e1y * py + e1z * pz
    if (Math.abs(det) < 1e-12) continue
    const [sx, sy, sz] = [ax - xyz[0], ay - xyz[1], az - xyz[2]]
    const u = (sx * px + sy * py + sz * pz) / det
    if (u < 0 || u > 1) continue
    const qx = sy * e1z - sz * e1y
    const qy = sz * e1x - sx * e1z
    const qz = sx * e1y - sy * e1x
    const v = (dx * qx + dy * qy + dz * qz) / det
    if (v < 0 || u + v > 1) continue
    const s = (e2x * qx + e2y * qy + e2z * qz) / det
    if (s > EPS && s < 1 - EPS) return true
  }
  return false
}

export function groundBlocks(
  { field }: Terrain,
  ax: number,
  ay: number,
  az: number,
  bx: number,
  by: number,
  bz: number,
): boolean {
  if (field.columns === 2 && field.rows === 2 && field.z.every((z) => z === field.z[0]))
    return Math.min(az, bz) < field.z[0] - EPS
  const length = Math.sqrt((bx - ax) ** 2 + (by - ay) ** 2)
  const pieces = Math.max(1, Math.ceil((2 * length) / field.spacingM))
  for (let k = 0; k <= pieces; k++) {
    const t = k / pieces
    if (az + (bz - az) * t < heightAt(field, ax + (bx - ax) * t, ay + (by - ay) * t) - EPS) return true
  }
  return false
}
