import { BarList, gatherBars, heldPart } from './bars'
import { FineBlocks } from './fine'
import { freeRadius, halfRise } from './free'
import { eachHeldCorner } from './held-corners'
import { freeParts, type FreeParts } from './free-parts'
import { STANDS, TILE, type Held } from './tile'
import { TileLinks } from './tile-links'

/** Tells of the columns near exact lines what these leave free. */
export class TileHeld extends TileLinks {
  protected readonly bars = new BarList()
  /** What is told finely of the level's fine areas. */
  protected readonly blocks = new FineBlocks(this.source)
  /** Which bars lie near which floors of the window, as pairs. */
  private pairFloor = new Int32Array(4096)
  private pairBar = new Int32Array(4096)
  private pairs = 0
  private heldFrom = new Uint32Array(0)
  private heldBy = new Uint16Array(0)
  protected reach = new Uint8Array(0)
  /** What is left of the columns of floors that have bars near. */
  protected readonly partsOf = new Map<number, FreeParts>()
  /** Corners in the tile's own columns, by the window's floors. */
  private cornerFloor: number[] = []
  private cornerPlace: number[] = []
  private cornerWedge: number[] = []
  private lines = new Float64Array(4 * 256)
  private readonly part = new Float64Array(4)

  /** Judges which floors of the tile and of one ring of columns around it can be reached by a body's middle. */
  protected holdOff(solids: readonly number[], i0: number, j0: number): void {
    const { source, side, apron, start, stand, clearMm } = this
    const { radiusM, cellM } = source
    if (this.reach.length < this.floors) this.reach = new Uint8Array(this.z.length)
    const x0 = this.x(i0, apron - 1) - cellM / 2
    const y0 = this.y(j0, apron - 1) - cellM / 2
    const wide = (TILE + 2) * cellM
    const box = { minX: x0 - radiusM, minY: y0 - radiusM, maxX: x0 + wide + radiusM, maxY: y0 + wide + radiusM }
    gatherBars(source, solids, this.walls, box, this.bars)
    const about = Math.ceil(radiusM / cellM) + 1
    this.blocks.each(i0 - about, j0 - about, TILE + 2 * about, (block) => block.linesInto(this.bars, box))
    this.pairUp(i0, j0)
    this.partsOf.clear()
    this.cornerFloor = []
    this.cornerPlace = []
    this.cornerWedge = []
    const leastMm = radiusM * 1000 - 0.5
    const held = this.pairs > 0
    for (let j = apron - 1; j <= apron + TILE; j++) {
      for (let i = apron - 1; i <= apron + TILE; i++) {
        const column = j * side + i
        for (let f = start[column]; f < start[column + 1]; f++) {
          let reached = stand[f] === STANDS && clearMm[f] >= leastMm
          if (reached && held && this.heldFrom[f] < this.heldFrom[f + 1]) {
            const parts = this.freeOf(f, this.x(i0, i) - cellM / 2, this.y(j0, j) - cellM / 2)
            if (parts) this.partsOf.set(f, parts)
            reached = !parts || parts.places.length > 0
            const own = i >= apron && j >= apron && i < apron + TILE && j < apron + TILE
            if (reached && own) this.findCorners(f, this.x(i0, i) - cellM / 2, this.y(j0, j) - cellM / 2)
          }
          this.reach[f] = reached ? 1 : 0
        }
      }
    }
  }

  /** Notes the corners in a floor's column; its lines are still those `freeOf` last wrote. */
  private findCorners(f: number, x0: number, y0: number): void {
    const { radiusM, cellM } = this.source
    const { lines, held } = this
    const place = { x0, y0, sizeM: cellM, lines, count: held, radiusM, freeM: freeRadius(radiusM) }
    eachHeldCorner(place, (x, y, ...wedge) => {
      this.cornerFloor.push(f)
      this.cornerPlace.push(x, y)
      this.cornerWedge.push(...wedge)
    })
  }

  /** How many lines `freeOf` last wrote. */
  private held = 0

  private freeOf(f: number, x0: number, y0: number): FreeParts | undefined {
    const most = this.heldFrom[f + 1] - this.heldFrom[f]
    if (most * 4 > this.lines.length) this.lines = new Float64Array(most * 8)
    const { source, bars, lines, part } = this
    const half = halfRise(source, this.surface[f])
    // As it will be read from the tile again.
    const z = Math.fround(this.z[f])
    let n = 0
    for (let p = this.heldFrom[f]; p < this.heldFrom[f + 1]; p++) {
      if (heldPart(bars, this.heldBy[p], z - half, z + half, part)) lines.set(part, 4 * n++)
    }
    this.held = n
    return freeParts(x0, y0, source.cellM, lines, n, freeRadius(source.radiusM))
  }

  /** Notes for each floor the bars that may hold off a body somewhere in its column. */
  private pairUp(i0: number, j0: number): void {
    const { source, bars, side, apron, start, stand, part } = this
    const { radiusM, cellM } = source
    this.pairs = 0
    const nearM = radiusM + cellM * Math.SQRT1_2
    for (let k = 0; k < bars.count; k++) {
      const ax = bars.line[k * 4]
      const ay = bars.line[k * 4 + 1]
      const dx = bars.line[k * 4 + 2] - ax
      const dy = bars.line[k * 4 + 3] - ay
      const length2 = dx * dx + dy * dy
      const i1 = Math.max(apron - 1, this.columnFrom(i0, Math.min(ax, ax + dx) - nearM))
      const i2 = Math.min(apron + TILE, this.columnFrom(i0, Math.max(ax, ax + dx) + nearM))
      const j1 = Math.max(apron - 1, this.rowFrom(j0, Math.min(ay, ay + dy) - nearM))
      const j2 = Math.min(apron + TILE, this.rowFrom(j0, Math.max(ay, ay + dy) + nearM))
      for (let j = j1; j <= j2; j++) {
        const y = this.y(j0, j) - ay
        for (let i = i1; i <= i2; i++) {
          const x = this.x(i0, i) - ax
          const t = length2 > 0 ? Math.min(1, Math.max(0, (x * dx + y * dy) / length2)) : 0
          const ex = x - t * dx
          const ey = y - t * dy
          if (ex * ex + ey * ey > nearM * nearM) continue
          const column = j * side + i
          for (let f = start[column]; f < start[column + 1]; f++) {
            if (stand[f] !== STANDS) continue
            const half = halfRise(source, this.surface[f])
            if (heldPart(bars, k, this.z[f] - half, this.z[f] + half, part)) this.pair(f, k)
          }
        }
      }
    }
    this.sortPairs()
  }

  private pair(floor: number, bar: number): void {
    if (this.pairs === this.pairFloor.length) {
      const grow = (a: Int32Array<ArrayBuffer>) => {
        const b = new Int32Array(a.length * 2)
        b.set(a)
        return b
      }
      this.pairFloor = grow(this.pairFloor)
      this.pairBar = grow(this.pairBar)
    }
    this.pairFloor[this.pairs] = floor
    this.pairBar[this.pairs++] = bar
  }

  /** Puts the pairs in order of their floors (counting sort); bars of one floor stay in their order. */
  private sortPairs(): void {
    if (this.pairs === 0) return
    const { pairs, pairFloor, pairBar } = this
    if (this.heldFrom.length < this.floors + 2) this.heldFrom = new Uint32Array(this.z.length + 2)
    if (this.heldBy.length < pairs) this.heldBy = new Uint16Array(pairs * 2)
    const { heldFrom, heldBy } = this
    heldFrom.fill(0, 0, this.floors + 2)
    for (let p = 0; p < pairs; p++) heldFrom[pairFloor[p] + 2]++
    for (let f = 2; f <= this.floors + 1; f++) heldFrom[f] += heldFrom[f - 1]
    for (let p = 0; p < pairs; p++) heldBy[heldFrom[pairFloor[p] + 1]++] = pairBar[p]
  }

  /** What exact lines leave of the tile's own columns. */
  protected cutHeld(start: Uint16Array, i0: number, j0: number): { held: Held; free: ReadonlyMap<number, FreeParts> } {
    const { side, apron, bars } = this
    const n = start[TILE * TILE]
    const free = new Map<number, FreeParts>()
    if (this.pairs === 0) return { held: NOTHING_HELD, free }
    const index = new Uint16Array(n)
    const from: number[] = [0]
    const by: number[] = []
    const place: number[] = []
    const moreFloor: number[] = []
    const morePlace: number[] = []
    const rim = new Map<number, FreeParts>()
    const corners = { floor: [] as number[], column: [] as number[], place: [] as number[], wedge: [] as number[] }
    let corner = 0
    for (let j = 0; j < TILE; j++) {
      for (let i = 0; i < TILE; i++) {
        const first = this.start[(j + apron) * side + i + apron]
        const to = start[j * TILE + i]
        const count = start[j * TILE + i + 1] - to
        for (let q = 0; q < count; q++) {
          const f = first + q
          for (; this.cornerFloor[corner] === f; corner++) {
            corners.floor.push(to + q)
            corners.column.push(j * TILE + i)
            corners.place.push(this.cornerPlace[corner * 2], this.cornerPlace[corner * 2 + 1])
            corners.wedge.push(...this.cornerWedge.slice(corner * 4, corner * 4 + 4))
          }
          if (this.heldFrom[f] === this.heldFrom[f + 1]) continue
          for (let p = this.heldFrom[f]; p < this.heldFrom[f + 1]; p++) by.push(this.heldBy[p])
          from.push(by.length)
          index[to + q] = from.length - 1
          const parts = this.partsOf.get(f)
          if (!parts) {
            place.push(this.x(i0, i + apron), this.y(j0, j + apron))
            continue
          }
          free.set(to + q, parts)
          place.push(parts.places[0] ?? 0, parts.places[1] ?? 0)
          for (let p = 2; p < parts.places.length; p += 2) {
            moreFloor.push(to + q)
            morePlace.push(parts.places[p], parts.places[p + 1])
          }
          if (i === 0 || j === 0 || i === TILE - 1 || j === TILE - 1) rim.set(to + q, parts)
        }
      }
    }
    if (by.length === 0) return { held: NOTHING_HELD, free }
    const { count } = bars
    const held = {
      bars: {
        count,
        line: bars.line.slice(0, count * 4),
        holds: bars.holds.slice(0, count * 4),
        kind: bars.kind.slice(0, count),
        owner: bars.owner.slice(0, count),
      },
      index,
      from: Uint32Array.from(from),
      by: Uint16Array.from(by),
      place: Float64Array.from(place),
      corners: {
        floor: Uint16Array.from(corners.floor),
        column: Uint16Array.from(corners.column),
        place: Float64Array.from(corners.place),
        wedge: Float32Array.from(corners.wedge),
      },
      more: { floor: Uint16Array.from(moreFloor), place: Float64Array.from(morePlace) },
      rim,
    }
    return { held, free }
  }
}

export const NOTHING_HELD: Held = {
  bars: {
    count: 0,
    line: new Float64Array(0),
    holds: new Float64Array(0),
    kind: new Uint8Array(0),
    owner: new Int32Array(0),
  },
  index: new Uint16Array(0),
  from: new Uint32Array(1),
  by: new Uint16Array(0),
  place: new Float64Array(0),
  corners: {
    floor: new Uint16Array(0),
    column: new Uint16Array(0),
    place: new Float64Array(0),
    wedge: new Float32Array(0),
  },
  more: { floor: new Uint16Array(0), place: new Float64Array(0) },
  rim: new Map(),
}
