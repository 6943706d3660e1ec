import type { ReachMap, Spot } from './map'
import type { StraightWalker } from './sight'

/** Sine of the angle a bend may be off from wrapping its obstacle; outlines are known only to a column. */
const LOOSE = 0.35

/**
 * The places shortest paths bend at, and which of them see each other. Only pairs that a taut string could join are
 * kept, as in a reduced visibility graph (Oh and Leong 2017). Neighbours are worked out when first asked for.
 */
export class CornerGraph {
  readonly count: number
  readonly x: Float64Array
  readonly y: Float64Array
  readonly island: Int32Array
  private readonly spots: Spot[] = []
  private readonly wedge: Float32Array
  private readonly known: (Int32Array | undefined)[]

  constructor(
    private readonly map: ReachMap,
    private readonly walker: StraightWalker,
  ) {
    const wedges: number[] = []
    map.tiles.forEach((tile, k) => {
      const { corners } = tile.outline
      for (let c = 0; c < corners.count; c++) {
        this.spots.push({ tile: k, column: corners.column[c], floor: corners.floor[c] })
        for (let q = 0; q < 4; q++) wedges.push(corners.wedge[c * 4 + q])
      }
    })
    this.count = this.spots.length
    this.wedge = Float32Array.from(wedges)
    this.x = Float64Array.from(this.spots, (s) => map.middleX(s))
    this.y = Float64Array.from(this.spots, (s) => map.middleY(s))
    this.island = Int32Array.from(this.spots, (s) => map.islandOf(s))
    this.known = new Array(this.count)
  }

  spot(n: number): Spot {
    return this.spots[n]
  }

  /** Could a taut string in direction (dx, dy) touch this corner without cutting its obstacle? */
  taut(n: number, dx: number, dy: number): boolean {
    const w = n * 4
    const inX = this.wedge[w]
    const inY = this.wedge[w + 1]
    if (inX === 0 && inY === 0) return true
    const slack = LOOSE * Math.sqrt(dx * dx + dy * dy)
    const back = -(dx * inY - dy * inX)
    const on = dx * this.wedge[w + 3] - dy * this.wedge[w + 2]
    return (back <= slack && on <= slack) || (back >= -slack && on >= -slack)
  }

  /** Can one walk straight from a corner to a place on a known floor? */
  sees(n: number, x: number, y: number, spot: Spot): boolean {
    return this.walker.walk(this.spots[n], this.x[n], this.y[n], x, y) && this.walker.endedOn(spot)
  }

  neighbours(n: number): Int32Array {
    let list = this.known[n]
    if (!list) {
      const found: number[] = []
      for (let m = 0; m < this.count; m++) {
        if (m === n || this.island[m] !== this.island[n]) continue
        const back = this.known[m]
        if (back) {
          if (back.includes(n)) found.push(m)
          continue
        }
        const dx = this.x[m] - this.x[n]
        const dy = this.y[m] - this.y[n]
        if (!this.taut(n, dx, dy) || !this.taut(m, dx, dy)) continue
        if (this.sees(n, this.x[m], this.y[m], this.spots[m])) found.push(m)
      }
      this.known[n] = list = Int32Array.from(found)
    }
    return list
  }

  /** The map these corners belong to. */
  get version(): number {
    return this.map.version
  }
}
