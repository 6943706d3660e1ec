import { exact, growBox, type Box2 } from '@tidytrail/core/geometry'
import type { Mesh } from '@tidytrail/core/level'
import Flatbush from 'flatbush'

/** Triangles as they were imported: z up, metres, about the mesh's own origin. */
export interface MeshData {
  /** x, y, z of each vertex. */
  readonly positions: Float32Array
  /** Three vertices for each triangle, anticlockwise when seen from outside. */
  readonly indices: Uint32Array
}

/** A mesh standing in a level, made ready for questions. */
export interface MeshShape {
  readonly id: string
  readonly name: string
  readonly walkable: boolean
  readonly box: Box2
  readonly lowM: number
  readonly highM: number
  /** The asset it came from, and how it stands: what tells whether it has changed. */
  readonly source: Mesh
  /** Nine numbers for each triangle, level metres. */
  readonly xyz: Float32Array
  /** Rise over run of each triangle; Infinity for upright ones. */
  readonly rise: Float32Array
  /** 1 for triangles seen from above, −1 from below, 0 for upright ones. */
  readonly up: Int8Array
  /** Triangles whose outline may meet a box. */
  near(box: Box2): number[]
}

/** Triangles smaller than this seen from above count as upright, square metres. */
const UPRIGHT_M2 = 1e-9

/** The triangles of a mesh where it stands in the level. */
export function placeMesh(id: string, mesh: Mesh, data: MeshData): MeshShape {
  const { positions, indices } = data
  const count = indices.length / 3
  const xyz = new Float32Array(count * 9)
  const rise = new Float32Array(count)
  const up = new Int8Array(count)
  const c = exact.cos(mesh.turnRad) * mesh.scale
  const s = exact.sin(mesh.turnRad) * mesh.scale
  const [ox, oy, oz] = mesh.at
  const box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity }
  let lowM = Infinity
  let highM = -Infinity
  const index = count > 0 ? new Flatbush(count, 16, Float32Array) : undefined
  for (let t = 0; t < count; t++) {
    let minX = Infinity
    let minY = Infinity
    let maxX = -Infinity
    let maxY = -Infinity
    for (let k = 0; k < 3; k++) {
      const v = indices[t * 3 + k] * 3
      const at = t * 9 + k * 3
      xyz[at] = ox + positions[v] * c - positions[v + 1] * s
      xyz[at + 1] = oy + positions[v] * s + positions[v + 1] * c
      xyz[at + 2] = oz + positions[v + 2] * mesh.scale
      minX = Math.min(minX, xyz[at])
      maxX = Math.max(maxX, xyz[at])
      minY = Math.min(minY, xyz[at + 1])
      maxY = Math.max(maxY, xyz[at + 1])
      lowM = Math.min(lowM, xyz[at + 2])
      highM = Math.max(highM, xyz[at + 2])
    }
    index!.add(minX, minY, maxX, maxY)
    box.minX = Math.min(box.minX, minX)
    box.minY = Math.min(box.minY, minY)
    box.maxX = Math.max(box.maxX, maxX)
    box.maxY = Math.max(box.maxY, maxY)
    const a = t * 9
    const ux = xyz[a + 3] - xyz[a]
    const uy = xyz[a + 4] - xyz[a + 1]
    const uz = xyz[a + 5] - xyz[a + 2]
    const vx = xyz[a + 6] - xyz[a]
    const vy = xyz[a + 7] - xyz[a + 1]
    const vz = xyz[a + 8] - xyz[a + 2]
    const nx = uy * vz - uz * vy
    const ny = uz * vx - ux * vz
    const nz = ux * vy - uy * vx
    if (Math.abs(nz) <= UPRIGHT_M2 + 1e-5 * (Math.abs(nx) + Math.abs(ny))) rise[t] = Infinity
    else {
      rise[t] = Math.sqrt(nx * nx + ny * ny) / Math.abs(nz)
      up[t] = nz > 0 ? 1 : -1
    }
  }
  index?.finish()
  return {
    id,
    name: mesh.name,
    walkable: mesh.walkable,
    box,
    lowM,
    highM,
    source: mesh,
    xyz,
    rise,
    up,
    near: (b) => {
      const g = growBox(b, 1e-4)
      return index ? index.search(g.minX, g.minY, g.maxX, g.maxY) : []
    },
  }
}

/** Height of a triangle over a place, or NaN when it does not lie over it. */
export function triangleAt(shape: MeshShape, t: number, x: number, y: number): number {
  const { xyz } = shape
  const a = t * 9
  const ax = xyz[a]
  const ay = xyz[a + 1]
  const bx = xyz[a + 3]
  const by = xyz[a + 4]
  const cx = xyz[a + 6]
  const cy = xyz[a + 7]
  const whole = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax)
  const u = ((bx - x) * (cy - y) - (by - y) * (cx - x)) / whole
  const v = ((cx - x) * (ay - y) - (cy - y) * (ax - x)) / whole
  const w = 1 - u - v
  if (!(u >= -1e-6 && v >= -1e-6 && w >= -1e-6)) return NaN
  return u * xyz[a + 2] + v * xyz[a + 5] + w * xyz[a + 8]
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
    const z = triangleAt(shape, t, x, y)
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

/** @throws RangeError when the bytes are no mesh, or not all of one */
export function unpackMesh(bytes: Uint8Array): MeshData {
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
  for (const i of indices) if (i >= vertices) throw new RangeError(`a triangle names vertex ${i} of ${vertices}`)
  for (const v of positions) if (!Number.isFinite(v)) throw new RangeError('a vertex is not a number')
  return { positions, indices }
}

export function magicOf(bytes: Uint8Array): number {
  return bytes.byteLength < HEAD ? 0 : new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true)
}
