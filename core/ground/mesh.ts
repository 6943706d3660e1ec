import { boxOf, exact, type Box2 } from '@tidytrail/core/geometry'
import type { Mesh } from '@tidytrail/core/level'
import Flatbush from 'flatbush'

/** Triangles as they were imported: z up, metres, about the mesh's own origin. */
export interface MeshData {
  /** x, y, z of each vertex. */
  readonly positions: Float32Array
  /** Three vertices for each triangle, anticlockwise when seen from outside. */
  readonly indices: Uint32Array
}

/** What is worked out once for each imported mesh, wherever and however often it stands. */
export interface MeshLookup {
  /** A Flatbush over the triangles as seen from above, in the mesh's own metres. */
  readonly tree: ArrayBuffer
  /** Rise over run of each triangle; Infinity for upright ones. */
  readonly rise: Float32Array
  /** 1 for triangles seen from above, −1 from below, 0 for upright ones. */
  readonly up: Int8Array
  readonly min: readonly [number, number, number]
  readonly max: readonly [number, number, number]
}

/** A mesh standing in a level, made ready for questions. Metres of the level throughout. */
export interface MeshShape {
  readonly id: string
  readonly name: string
  readonly walkable: boolean
  readonly box: Box2
  readonly lowM: number
  readonly highM: number
  /** The asset it came from, and how it stands: what tells whether it has changed. */
  readonly source: Mesh
  readonly rise: Float32Array
  readonly up: Int8Array
  /** Triangles whose outline may meet a box. */
  near(box: Box2): number[]
  /** Writes the three corners of a triangle, nine numbers. */
  corners(t: number, out: Float64Array): void
}

/** Triangles smaller than this seen from above count as upright, square metres. */
const UPRIGHT_M2 = 1e-9

/** Steepness and a spatial index of all triangles of a mesh. Slow for large ones: done once an asset. */
export function lookUpMesh({ positions, indices }: MeshData): MeshLookup {
  const count = indices.length / 3
  const rise = new Float32Array(count)
  const up = new Int8Array(count)
  const min: [number, number, number] = [Infinity, Infinity, Infinity]
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity]
  const tree = new Flatbush(Math.max(1, count), 16, Float32Array)
  if (count === 0) tree.add(Infinity, Infinity, -Infinity, -Infinity)
  for (let t = 0; t < count; t++) {
    const a = indices[t * 3] * 3
    const b = indices[t * 3 + 1] * 3
    const c = indices[t * 3 + 2] * 3
    tree.add(
      Math.min(positions[a], positions[b], positions[c]),
      Math.min(positions[a + 1], positions[b + 1], positions[c + 1]),
      Math.max(positions[a], positions[b], positions[c]),
      Math.max(positions[a + 1], positions[b + 1], positions[c + 1]),
    )
    for (const v of [a, b, c]) {
      for (let k = 0; k < 3; k++) {
        if (positions[v + k] < min[k]) min[k] = positions[v + k]
        if (positions[v + k] > max[k]) max[k] = positions[v + k]
      }
    }
    const ux = positions[b] - positions[a]
    const uy = positions[b + 1] - positions[a + 1]
    const uz = positions[b + 2] - positions[a + 2]
    const vx = positions[c] - positions[a]
    const vy = positions[c + 1] - positions[a + 1]
    const vz = positions[c + 2] - positions[a + 2]
    const nx = uy * vz - uz * vy
    const ny = uz * vx - ux * vz
    const nz = ux * vy - uy * vx
    if (Math.abs(nz) <= UPRIGHT_M2 + 1e-5 * (Math.abs(nx) + Math.abs(ny))) rise[t] = Infinity
    else {
      rise[t] = Math.sqrt(nx * nx + ny * ny) / Math.abs(nz)
      up[t] = nz > 0 ? 1 : -1
    }
  }
  tree.finish()
  return { tree: tree.data as ArrayBuffer, rise, up, min, max }
}

const trees = new WeakMap<MeshLookup, Flatbush>()
const treeOf = (lookup: MeshLookup): Flatbush => {
  let tree = trees.get(lookup)
  if (!tree) trees.set(lookup, (tree = Flatbush.from(lookup.tree)))
  return tree
}

/** A mesh where it stands in the level. Quick: nothing is copied, places are turned into the mesh's own when asked. */
export function placeMesh(id: string, mesh: Mesh, data: MeshData, lookup: MeshLookup): MeshShape {
  const { positions, indices } = data
  const { min, max } = lookup
  const { scale } = mesh
  const cos = exact.cos(mesh.turnRad)
  const sin = exact.sin(mesh.turnRad)
  const c = cos * scale
  const s = sin * scale
  const [ox, oy, oz] = mesh.at
  const tree = treeOf(lookup)
  const box = boxOf([
    [ox + min[0] * c - min[1] * s, oy + min[0] * s + min[1] * c],
    [ox + max[0] * c - min[1] * s, oy + max[0] * s + min[1] * c],
    [ox + max[0] * c - max[1] * s, oy + max[0] * s + max[1] * c],
    [ox + min[0] * c - max[1] * s, oy + min[0] * s + max[1] * c],
  ])
  return {
    id,
    name: mesh.name,
    walkable: mesh.walkable,
    box,
    lowM: oz + min[2] * scale,
    highM: oz + max[2] * scale,
    source: mesh,
    rise: lookup.rise,
    up: lookup.up,
    near(b) {
      // The box in the mesh's own frame: its middle turned back, and grown to hold the turned corners.
      const mx = (b.minX + b.maxX) / 2 - ox
      const my = (b.minY + b.maxY) / 2 - oy
      const hx = (b.maxX - b.minX) / 2
      const hy = (b.maxY - b.minY) / 2
      const x = (mx * cos + my * sin) / scale
      const y = (my * cos - mx * sin) / scale
      const wide = (hx * Math.abs(cos) + hy * Math.abs(sin)) / scale + 1e-3
      const deep = (hx * Math.abs(sin) + hy * Math.abs(cos)) / scale + 1e-3
      return tree.search(x - wide, y - deep, x + wide, y + deep)
    },
    corners(t, out) {
      for (let k = 0; k < 3; k++) {
        const v = indices[t * 3 + k] * 3
        out[k * 3] = ox + positions[v] * c - positions[v + 1] * s
        out[k * 3 + 1] = oy + positions[v] * s + positions[v + 1] * c
        out[k * 3 + 2] = oz + positions[v + 2] * scale
      }
    },
  }
}

/** Height of a triangle, given by its corners, over a place; NaN when it does not lie over it. */
export function triangleAt(xyz: Float64Array, x: number, y: number): number {
  const ax = xyz[0]
  const ay = xyz[1]
  const bx = xyz[3]
  const by = xyz[4]
  const cx = xyz[6]
  const cy = xyz[7]
  const whole = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax)
  const u = ((bx - x) * (cy - y) - (by - y) * (cx - x)) / whole
  const v = ((cx - x) * (ay - y) - (cy - y) * (ax - x)) / whole
  const w = 1 - u - v
  if (!(u >= -1e-6 && v >= -1e-6 && w >= -1e-6)) return NaN
  return u * xyz[2] + v * xyz[5] + w * xyz[8]
}

/** How thick a sheet without an underside is taken to be, metres. */
const SHEET_M = 0.05
/** Triangles crossed at the same height are one, metres: a place on the edge between two lies over both. */
const SAME_M = 1e-4

/** What a plumb line through a mesh meets, gathered triangle by triangle. */
export class PlumbLine {
  private n = 0
  private readonly z: number[] = []
  private readonly up: number[] = []
  private readonly rise: number[] = []

  clear(): void {
    this.n = 0
  }

  /** Notes a triangle crossed at a height. */
  cross(z: number, up: number, rise: number): void {
    let k = this.n
    while (k > 0 && (this.z[k - 1] > z + SAME_M || (Math.abs(this.z[k - 1] - z) <= SAME_M && this.up[k - 1] > up))) k--
    if (k > 0 && this.up[k - 1] === up && Math.abs(this.z[k - 1] - z) <= SAME_M) return
    for (let q = this.n; q > k; q--) {
      this.z[q] = this.z[q - 1]
      this.up[q] = this.up[q - 1]
      this.rise[q] = this.rise[q - 1]
    }
    this.z[k] = z
    this.up[k] = up
    this.rise[k] = rise
    this.n++
  }

  /**
   * Calls `each` with every stretch of the line inside the mesh, lowest first. From a side seen from below to one seen
   * from above is inside; a side without its counterpart is a thin sheet.
   */
  spans(each: (baseM: number, topM: number, rise: number) => void): void {
    const { z, up, rise } = this
    let depth = 0
    let from = 0
    for (let k = 0; k < this.n; k++) {
      if (up[k] < 0) {
        if (depth++ === 0) from = z[k]
      } else if (depth === 0) each(z[k] - SHEET_M, z[k], rise[k])
      else if (--depth === 0) each(from, z[k], rise[k])
    }
    if (depth === 0) return
    // Never closed: each of the last sides seen from below is a sheet of its own.
    for (let k = 0; k < this.n; k++) if (up[k] < 0 && z[k] >= from) each(z[k] - SHEET_M, z[k], rise[k])
  }
}

const line = new PlumbLine()
const scratch = new Float64Array(9)

/** The stretches of a mesh over a place, lowest first. */
export function meshSpansAt(
  shape: MeshShape,
  x: number,
  y: number,
  each: (baseM: number, topM: number, rise: number) => void,
): void {
  line.clear()
  for (const t of shape.near({ minX: x, minY: y, maxX: x, maxY: y })) {
    if (shape.up[t] === 0) continue
    shape.corners(t, scratch)
    const z = triangleAt(scratch, x, y)
    if (z === z) line.cross(z, shape.up[t], shape.rise[t])
  }
  line.spans(each)
}

const MAGIC = 0x314d5454 // "TTM1"
const HEAD = 12

/** A mesh as the bytes of an asset: "TTM1", number of vertices, number of triangles, then both lists, little-endian. */
export function packMesh(data: MeshData): Uint8Array {
  const bytes = new Uint8Array(HEAD + data.positions.byteLength + data.indices.byteLength)
  const head = new DataView(bytes.buffer)
  head.setUint32(0, MAGIC, true)
  head.setUint32(4, data.positions.length / 3, true)
  head.setUint32(8, data.indices.length / 3, true)
  new Float32Array(bytes.buffer, HEAD, data.positions.length).set(data.positions)
  new Uint32Array(bytes.buffer, HEAD + data.positions.byteLength, data.indices.length).set(data.indices)
  return bytes
}

/** Does an asset hold a mesh? */
export const isMesh = (bytes: Uint8Array) => magicOf(bytes) === MAGIC

/**
 * @param looked have the bytes been unpacked elsewhere, so that every figure in them is known to be sound?
 * @throws RangeError when the bytes are no mesh, or not all of one
 */
export function unpackMesh(bytes: Uint8Array, looked = false): MeshData {
  if (!isMesh(bytes)) throw new RangeError('this asset is no mesh')
  const head = new DataView(bytes.buffer, bytes.byteOffset)
  const vertices = head.getUint32(4, true)
  const triangles = head.getUint32(8, true)
  const expected = HEAD + vertices * 12 + triangles * 12
  if (bytes.byteLength !== expected) {
    throw new RangeError(`this mesh has ${bytes.byteLength} bytes where ${expected} are expected`)
  }
  const copy = bytes.slice().buffer
  const positions = new Float32Array(copy, HEAD, vertices * 3)
  const indices = new Uint32Array(copy, HEAD + vertices * 12, triangles * 3)
  if (looked) return { positions, indices }
  for (const i of indices) if (i >= vertices) throw new RangeError(`a triangle names vertex ${i} of ${vertices}`)
  for (const v of positions) if (!Number.isFinite(v)) throw new RangeError('a vertex is not a number')
  return { positions, indices }
}

export function magicOf(bytes: Uint8Array): number {
  return bytes.byteLength < HEAD ? 0 : new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true)
}
