import { freeRadius, heldLines, lines, linesApart2 } from './free'
import type { ReachMap, Spot } from './map'
import { NONE, TILE, TILE_SHIFT, type Tile } from './tile'

/**
 * How much closer than its radius a straight walk may come to what is known by columns only, in columns: the edge of
 * such ground runs in steps, and a slanted one could not be walked along without it.
 */
const SLACK = 0.9
/** Columns along the side of a block that is looked at as one, a power of two. */
const PLAIN_SHIFT = 3
const PLAIN = 1 << PLAIN_SHIFT
/** Halvings with which the place is found where a walk comes too near to something. */
const HALVINGS = 20

/**
 * Walks straight lines over the reach map, column by column (Amanatides and Woo 1987), from floor to floor, and holds
 * every piece of them against the exact lines near its column. One walker serves one map and is used again and again; a
 * walk allocates nothing.
 */
export class StraightWalker {
  private softMm = 0
  private rho2 = 0
  /** Where the last walk ended. */
  tile = 0
  column = 0
  floor = 0
  /** Share of the last walk that could be walked, 0 to 1. */
  share = 0
  /** The exact line the last walk was stopped by: ax, ay, bx, by; only when `atLine`. */
  readonly line = new Float64Array(4)
  atLine = false
  private ax = 0
  private ay = 0
  private dx = 0
  private dy = 0

  constructor(private readonly map: ReachMap) {}

  /** Can one walk straight from a floor, starting at (ax, ay), to (bx, by)? Where it ends is left in the fields. */
  walk(from: Spot, ax: number, ay: number, bx: number, by: number): boolean {
    const { extent, cellM, radiusM } = this.map.source
    this.softMm = Math.max(0, (radiusM - SLACK * cellM) * 1000)
    const rho = freeRadius(radiusM)
    this.rho2 = rho * rho
    const i0 = this.map.tiles[from.tile].i0 + (from.column % TILE)
    const j0 = this.map.tiles[from.tile].j0 + Math.floor(from.column / TILE)
    this.tile = from.tile
    this.column = from.column
    this.floor = from.floor
    this.share = 0
    this.atLine = false
    this.ax = ax
    this.ay = ay
    this.dx = bx - ax
    this.dy = by - ay
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
    let entered = 0
    while (leftX > 0 || leftY > 0) {
      if (this.isPlain()) {
        // Over a plain block one comes to its last column on the way at once.
        const i = this.column & (PLAIN - 1)
        const j = (this.column >> TILE_SHIFT) & (PLAIN - 1)
        const moreX = dirX === 0 ? PLAIN - 1 - i : i
        const moreY = dirY === 1 ? PLAIN - 1 - j : j
        const outX = leftX > moreX ? nextX + moreX * perX : Infinity
        const outY = leftY > moreY ? nextY + moreY * perY : Infinity
        const out = Math.min(outX, outY)
        const overX = outX === out ? Math.min(moreX, leftX) : crossings(nextX, perX, out, Math.min(moreX, leftX))
        const overY = outY === out ? Math.min(moreY, leftY) : crossings(nextY, perY, out, Math.min(moreY, leftY))
        if (overX + overY > 0) {
          this.column += (dirX === 0 ? overX : -overX) + TILE * (dirY === 1 ? overY : -overY)
          this.floor = this.map.tiles[this.tile].start[this.column]
          leftX -= overX
          leftY -= overY
          nextX += overX > 0 ? overX * perX : 0
          nextY += overY > 0 ? overY * perY : 0
          if (leftX === 0 && leftY === 0) break
        }
      }
      const corner = leftX > 0 && leftY > 0 && Math.abs(nextX - nextY) < 1e-9
      const leaves = corner || leftY === 0 || (leftX > 0 && nextX < nextY) ? nextX : nextY
      const share = Math.min(1, leaves)
      if (!this.isClear(entered, share)) return false
      entered = share
      this.share = share
      if (corner) {
        if (!(this.step(dirX) && this.step(dirY))) return false
        leftX--
        leftY--
        nextX += perX
        nextY += perY
      } else if (leaves === nextX && leftX > 0 && (leftY === 0 || nextX < nextY)) {
        if (!this.step(dirX)) return false
        leftX--
        nextX += perX
      } else {
        if (!this.step(dirY)) return false
        leftY--
        nextY += perY
      }
    }
    if (!this.isClear(entered, 1)) return false
    this.share = 1
    return true
  }

  /** Of each tile, which of its blocks are plain; worked out again when the tile is another. */
  private readonly plain: { tile: Tile; blocks: Uint8Array }[] = []

  /** Is one in a plain block, in which one may walk from any column to any other? */
  private isPlain(): boolean {
    const tile = this.map.tiles[this.tile]
    let known = this.plain[this.tile]
    if (known?.tile !== tile) {
      known = { tile, blocks: plainBlocks(tile, this.softMm) }
      this.plain[this.tile] = known
    }
    const i = this.column & (TILE - 1)
    const j = this.column >> TILE_SHIFT
    return known.blocks[(j >> PLAIN_SHIFT) * (TILE / PLAIN) + (i >> PLAIN_SHIFT)] === 1
  }

  /** Did the last walk end on this floor? */
  endedOn(spot: Spot): boolean {
    return this.floor === spot.floor && this.column === spot.column && this.tile === spot.tile
  }

  /** Is the piece of the walk between two shares of it, all in the column one is in, clear of exact lines? */
  private isClear(from: number, to: number): boolean {
    const { map } = this
    const tile = map.tiles[this.tile]
    if (tile.held.index.length === 0 || tile.held.index[this.floor] === 0) return true
    const n = heldLines(map.source, tile, this.floor)
    for (let k = 0; k < n; k++) {
      if (this.apart2(k, from, to) >= this.rho2) continue
      this.stopAt(n, from, to)
      return false
    }
    return true
  }

  private apart2(k: number, from: number, to: number): number {
    const { ax, ay, dx, dy } = this
    const n = k * 4
    return linesApart2(
      ax + dx * from,
      ay + dy * from,
      ax + dx * to,
      ay + dy * to,
      lines[n],
      lines[n + 1],
      lines[n + 2],
      lines[n + 3],
    )
  }

  /** Finds how far the walk gets within a piece of it that is not clear, and at which line it ends. */
  private stopAt(n: number, from: number, to: number): void {
    let clear = from
    let barred = to
    for (let h = 0; h < HALVINGS; h++) {
      const middle = (clear + barred) / 2
      let free = true
      for (let k = 0; k < n && free; k++) if (this.apart2(k, from, middle) < this.rho2) free = false
      if (free) clear = middle
      else barred = middle
    }
    this.share = clear
    this.atLine = true
    let least = Infinity
    for (let k = 0; k < n; k++) {
      const m = this.apart2(k, barred, barred)
      if (m >= least) continue
      least = m
      this.line.set(lines.subarray(k * 4, k * 4 + 4))
    }
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

/** How many of at most `most` crossings, the first at `next` and then one every `per`, come before `out`. */
function crossings(next: number, per: number, out: number, most: number): number {
  if (most === 0) return 0
  if (out === Infinity) return most
  return Math.max(0, Math.min(most, Math.ceil((out - next) / per - 1e-9)))
}

/** 1 for each block of a tile whose columns all have one floor, free everywhere and linked to its neighbours in the block. */
function plainBlocks(tile: Tile, softMm: number): Uint8Array {
  const wide = TILE / PLAIN
  const blocks = new Uint8Array(wide * wide).fill(1)
  const { start, reach, clearMm, links, held } = tile
  for (let column = 0; column < TILE * TILE; column++) {
    const i = column & (TILE - 1)
    const j = column >> TILE_SHIFT
    const block = (j >> PLAIN_SHIFT) * wide + (i >> PLAIN_SHIFT)
    const f = start[column]
    const plain =
      start[column + 1] === f + 1 &&
      reach[f] === 1 &&
      clearMm[f] >= softMm &&
      (held.index.length === 0 || held.index[f] === 0) &&
      (i % PLAIN === PLAIN - 1 || links[f * 4] !== NONE) &&
      (j % PLAIN === PLAIN - 1 || links[f * 4 + 1] !== NONE)
    if (!plain) blocks[block] = 0
  }
  return blocks
}
