import { type Point2 } from '@tidytrail/core/geometry'
import { eachSpanAt } from '@tidytrail/core/ground'
import type { ReachSource } from './source'
import { TILE } from './tile'

export const EPS = 1e-6

/** Columns along a side of the level: the last may reach beyond it. */
export const columnsAlong = (sideM: number, cellM: number): number => Math.max(1, Math.ceil(sideM / cellM - 1e-6))

/** The window of columns a tile is worked out over, with arrays that are kept from tile to tile. */
export class TileWindow {
  protected readonly apron: number
  protected readonly side: number
  protected readonly head: Int32Array
  protected readonly start: Int32Array
  protected readonly mask: Uint8Array
  protected readonly thin: Uint8Array
  protected readonly thinBy = new Map<number, number[]>()
  protected readonly span = {
    next: new Int32Array(0),
    base: new Float64Array(0),
    top: new Float64Array(0),
    surface: new Int32Array(0),
    rise: new Float64Array(0),
  }
  protected spans = 0
  protected floors = 0
  protected z = new Float64Array(0)
  protected ceiling = new Float64Array(0)
  protected surface = new Int32Array(0)
  /** Rise over run of each floor. */
  protected rise = new Float64Array(0)
  protected stand = new Uint8Array(0)
  protected clearMm = new Uint16Array(0)
  protected links = new Uint8Array(0)
  protected readonly sample = new Float64Array(3)
  protected columns: number
  protected rows: number

  /**
   * @param inner columns along the side of what is worked out
   * @param apron columns looked at beyond it on every side
   */
  constructor(
    protected readonly source: ReachSource,
    inner = TILE,
    apron = Math.ceil(source.radiusM / source.cellM) + 2,
  ) {
    const { cellM, extent } = source
    this.apron = apron
    this.side = inner + 2 * apron
    const n = this.side * this.side
    this.head = new Int32Array(n)
    this.start = new Int32Array(n + 1)
    this.mask = new Uint8Array(n)
    this.thin = new Uint8Array(n * 2)
    this.columns = columnsAlong(extent.maxX - extent.minX, cellM)
    this.rows = columnsAlong(extent.maxY - extent.minY, cellM)
  }

  protected x(i0: number, i: number): number {
    return this.source.extent.minX + (i0 - this.apron + i + 0.5) * this.source.cellM
  }

  protected y(j0: number, j: number): number {
    return this.source.extent.minY + (j0 - this.apron + j + 0.5) * this.source.cellM
  }

  /** First window column whose middle is at or beyond x. */
  protected columnFrom(i0: number, x: number): number {
    return Math.ceil((x - this.source.extent.minX) / this.source.cellM - 0.5) - i0 + this.apron
  }

  protected rowFrom(j0: number, y: number): number {
    return Math.ceil((y - this.source.extent.minY) / this.source.cellM - 0.5) - j0 + this.apron
  }

  protected eachColumnIn(
    ring: readonly Point2[],
    minY: number,
    maxY: number,
    i0: number,
    j0: number,
    each: (column: number, x: number, y: number) => void,
  ): void {
    const first = Math.max(0, this.rowFrom(j0, minY))
    const last = Math.min(this.side - 1, this.rowFrom(j0, maxY))
    for (let j = first; j <= last; j++) {
      const y = this.y(j0, j)
      eachSpanAt(ring, y, (x0, x1) => {
        const from = Math.max(0, this.columnFrom(i0, x0))
        const to = Math.min(this.side - 1, this.columnFrom(i0, x1) - 1)
        for (let i = from; i <= to; i++) each(j * this.side + i, this.x(i0, i), y)
      })
    }
  }

  protected roomForSpan(): number {
    const { span } = this
    if (this.spans === span.next.length) {
      const size = Math.max(4096, span.next.length * 2)
      span.next = grown(span.next, new Int32Array(size))
      span.base = grown(span.base, new Float64Array(size))
      span.top = grown(span.top, new Float64Array(size))
      span.surface = grown(span.surface, new Int32Array(size))
      span.rise = grown(span.rise, new Float64Array(size))
    }
    return this.spans++
  }

  protected roomForFloors(count: number): void {
    if (this.z.length >= count) return
    const size = Math.max(count, this.side * this.side, this.z.length * 2)
    this.z = grown(this.z, new Float64Array(size))
    this.ceiling = grown(this.ceiling, new Float64Array(size))
    this.surface = grown(this.surface, new Int32Array(size))
    this.rise = grown(this.rise, new Float64Array(size))
    this.stand = grown(this.stand, new Uint8Array(size))
    this.clearMm = new Uint16Array(size)
    this.links = new Uint8Array(size * 4)
  }
}

function grown<A extends Int32Array | Float64Array | Uint8Array>(from: A, to: A): A {
  to.set(from)
  return to
}
