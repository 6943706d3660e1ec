import type { MeshData } from '@tidytrail/core/ground'
import { FormatError } from './error'
import { FORMAT_LIMITS } from './limits'

/** How a file's own axes and units become ours: z up, metres. */
export interface MeshOptions {
  readonly upAxis: 'y' | 'z'
  /** Metres a unit of the file. */
  readonly scale: number
}

/** A mesh that was read, and what had to be mended on the way. */
export interface MeshRead {
  readonly mesh: MeshData
  readonly repairs: readonly string[]
  /** Lowest and highest corner, metres. */
  readonly box: { readonly min: readonly [number, number, number]; readonly max: readonly [number, number, number] }
}

/** Twice the area below which a triangle has none, square metres. */
const NO_AREA = 1e-10

/** Gathers triangles as they are read, and makes sure of them. */
export class MeshGatherer {
  private positions: number[] = []
  private indices: number[] = []
  private dropped = 0

  constructor(private readonly options: MeshOptions) {
    if (!(options.scale > 0 && Number.isFinite(options.scale)))
      throw new FormatError('', 'the scale is not a number above zero')
  }

  /** Adds a vertex as the file has it. @returns its number */
  vertex(x: number, y: number, z: number, at: () => string): number {
    const { scale, upAxis } = this.options
    if (!Number.isFinite(x) || !Number.isFinite(y) || !Number.isFinite(z))
      throw new FormatError(at(), `has a coordinate that is not a number (${x}, ${y}, ${z})`)
    const far = FORMAT_LIMITS.coordinateM / scale
    if (Math.abs(x) > far || Math.abs(y) > far || Math.abs(z) > far) {
      const place = `${+x.toPrecision(4)}, ${+y.toPrecision(4)}, ${+z.toPrecision(4)}`
      throw new FormatError(at(), `lies at ${place}: more than 100 km away at this scale`)
    }
    if (this.positions.length >= FORMAT_LIMITS.vertices * 3)
      throw new FormatError(
        at(),
        `goes beyond ${FORMAT_LIMITS.vertices.toLocaleString('en')} vertices, the most that are read`,
      )
    // The turn from y up to z up keeps the winding.
    if (upAxis === 'y') this.positions.push(x * scale, 0 - z * scale, y * scale)
    else this.positions.push(x * scale, y * scale, z * scale)
    return this.positions.length / 3 - 1
  }

  get vertices(): number {
    return this.positions.length / 3
  }

  triangle(a: number, b: number, c: number, at: () => string): void {
    const n = this.vertices
    for (const v of [a, b, c])
      if (!Number.isInteger(v) || v < 0 || v >= n) throw new FormatError(at(), `names vertex ${v}, and there are ${n}`)
    const p = this.positions
    const ux = p[b * 3] - p[a * 3]
    const uy = p[b * 3 + 1] - p[a * 3 + 1]
    const uz = p[b * 3 + 2] - p[a * 3 + 2]
    const vx = p[c * 3] - p[a * 3]
    const vy = p[c * 3 + 1] - p[a * 3 + 1]
    const vz = p[c * 3 + 2] - p[a * 3 + 2]
    const nx = uy * vz - uz * vy
    const ny = uz * vx - ux * vz
    const nz = ux * vy - uy * vx
    if (nx * nx + ny * ny + nz * nz <= NO_AREA * NO_AREA) {
      this.dropped++
      return
    }
    if (this.indices.length / 3 >= FORMAT_LIMITS.triangles)
      throw new FormatError(
        at(),
        `goes beyond ${FORMAT_LIMITS.triangles.toLocaleString('en')} triangles, the most that are read`,
      )
    this.indices.push(a, b, c)
  }

  finish(): MeshRead {
    if (this.indices.length === 0) {
      throw new FormatError('', this.dropped > 0 ? 'has only triangles without area' : 'has no triangles')
    }
    const positions = Float32Array.from(this.positions)
    const min: [number, number, number] = [Infinity, Infinity, Infinity]
    const max: [number, number, number] = [-Infinity, -Infinity, -Infinity]
    for (const v of this.indices) {
      for (let k = 0; k < 3; k++) {
        min[k] = Math.min(min[k], positions[v * 3 + k])
        max[k] = Math.max(max[k], positions[v * 3 + k])
      }
    }
    const repairs: string[] = []
    if (this.dropped > 0) {
      repairs.push(`${this.dropped} ${this.dropped === 1 ? 'triangle' : 'triangles'} without area left out`)
    }
    return { mesh: { positions, indices: Uint32Array.from(this.indices) }, repairs, box: { min, max } }
  }
}
