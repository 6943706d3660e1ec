import type { ReachMap, Spot } from './map'
import { NONE, TILE } from './tile'

/**
 * How much closer than its radius a straight walk may come to a wall, in columns: the reach's edge runs in steps, and
 * a slanted wall could not be walked along without it.
 */
const SLACK = 0.9

/**
 * Walks straight lines over the reach map, column by column (Amanatides and Woo 1987), from floor to floor.
 * One walker serves one map and is used again and again; a walk allocates nothing.
 */
export class StraightWalker {
  private readonly softMm: number
  /** Where the last walk ended. */
  tile = 0
  column = 0
  floor = 0
  /** Share of the last walk that could be walked, 0 to 1. */
  share = 0

  constructor(private readonly map: ReachMap) {
    this.softMm = Math.max(0, (map.source.radiusM - SLACK * map.source.cellM) * 1000)
  }

  /** Can one walk straight from a floor, starting at (ax, ay), to (bx, by)? Where it ends is left in the fields. */
  walk(from: Spot, ax: number, ay: number, bx: number, by: number): boolean {
    const { extent, cellM } = this.map.source
    const i0 = this.map.tiles[from.tile].i0 + (from.column % TILE)
    const j0 = this.map.tiles[from.tile].j0 + Math.floor(from.column / TILE)
    this.tile = from.tile
    this.column = from.column
    this.floor = from.floor
    this.share = 0
    const i1 = Math.floor((bx - extent.minX) / cellM)
    const j1 = Math.floor((by - extent.minY) / cellM)
    const dx = (bx - ax) / cellM
    const dy = (by - ay) / cellM
    const perX = dx !== 0 ? Math.abs(1 / dx) : Infinity
    const perY = dy !== 0 ? Math.abs(1 / dy) : Infinity
    const fx = (ax - extent.minX) / cellM - i0
    const fy = (ay - extent.minY) / cellM - j0
    let nextX = dx !== 0 ? (dx > 0 ? 1 - fx : fx) * perX : Infinity
    let nextY = dy !== 0 ? (dy > 0 ? 1 - fy : fy) * perY : Infinity
    let leftX = Math.abs(i1 - i0)
    let leftY = Math.abs(j1 - j0)
    const dirX = dx > 0 ? 0 : 2
    const dirY = dy > 0 ? 1 : 3
    while (leftX > 0 || leftY > 0) {
      const corner = leftX > 0 && leftY > 0 && Math.abs(nextX - nextY) < 1e-9
      if (corner) {
        this.share = Math.min(1, nextX)
        if (!(this.step(dirX) && this.step(dirY))) return false
        leftX--
        leftY--
        nextX += perX
        nextY += perY
      } else if (leftY === 0 || (leftX > 0 && nextX < nextY)) {
        this.share = Math.min(1, nextX)
        if (!this.step(dirX)) return false
        leftX--
        nextX += perX
      } else {
        this.share = Math.min(1, nextY)
        if (!this.step(dirY)) return false
        leftY--
        nextY += perY
      }
    }
    this.share = 1
    return true
  }

  /** Did the last walk end on this floor? */
  endedOn(spot: Spot): boolean {
    return this.floor === spot.floor && this.column === spot.column && this.tile === spot.tile
  }

  private step(d: number): boolean {
    const { map } = this
    const link = map.tiles[this.tile].links[this.floor * 4 + d]
    if (link === NONE) return false
    let { tile, column } = this
    if (d === 0) {
      if (column % TILE === TILE - 1) {
        tile += 1
        column -= TILE - 1
      } else column += 1
    } else if (d === 2) {
      if (column % TILE === 0) {
        tile -= 1
        column += TILE - 1
      } else column -= 1
    } else if (d === 1) {
      if (column >= TILE * (TILE - 1)) {
        tile += map.tilesX
        column -= TILE * (TILE - 1)
      } else column += TILE
    } else if (column < TILE) {
      tile -= map.tilesX
      column += TILE * (TILE - 1)
    } else column -= TILE
    const next = map.tiles[tile]
    const floor = next.start[column] + link
    if (next.clearMm[floor] < this.softMm) return false
    this.tile = tile
    this.column = column
    this.floor = floor
    return true
  }

  /** The spot the last walk ended on. */
  here(): Spot {
    return { tile: this.tile, column: this.column, floor: this.floor }
  }
}
