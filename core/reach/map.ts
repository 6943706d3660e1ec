import { boxesMeet, growBox, type Box2, type Point3 } from '@tidytrail/core/geometry'
import { GROUND, meshSurface, terrainChanges, type Terrain } from '@tidytrail/core/ground'
import { RIM, SIDE } from './bars'
import { TileBuilder } from './build'
import { away, awayFromLines, freeRadius, heldLines, lineDistance, lines, linesApart2 } from './free'
import { joinIslands, type Islands, type Seam } from './islands'
import { fineChanges, sameRules, type ReachSource } from './source'
import { TILE, TILE_SHIFT, type Tile } from './tile'
import { columnsAlong } from './tile-window'

/** How often a place is pushed away from lines that are too near. */
const PUSHES = 6

/** A floor of the reach map: which tile, which column in it, and which of the tile's floors. */
export interface Spot {
  readonly tile: number
  readonly column: number
  readonly floor: number
  /** Which of the column's separate free parts, counted over the tile's places kept apart; the first without it. */
  readonly more?: number
}

/** What is still to be done before the map answers for its new source. */
export interface ReachWork {
  readonly source: ReachSource
  /** Where something has changed of what the map is made from. */
  readonly changed: readonly Box2[] | 'everywhere'
  /** Tiles still to be built. */
  readonly tiles: number[]
  /** New codes of surfaces by their old ones, where solids or meshes that come before them have come or gone. */
  readonly renumbered: ReadonlyMap<number, number> | undefined
}

/**
 * Where one profile may go. Columns of floors in square tiles; a change in the terrain rebuilds only the tiles it
 * touches. Built in steps, so that a caller can stop between tiles.
 */
export class ReachMap {
  source: ReachSource
  readonly columns: number
  readonly rows: number
  readonly tilesX: number
  readonly tilesY: number
  readonly tiles: Tile[] = []
  islands: Islands = { ofPart: new Int32Array(0), partBase: new Int32Array(0), list: [] }
  /** Goes up with every finished change. */
  version = 0
  /** What `joinIslands` remembers from one time to the next. */
  readonly seams = new Map<number, Seam>()
  /** Tiles built for a plan that has not been finished, and may never be. */
  private readonly unsettled = new Set<number>()
  /** May a tile that comes out as it was stay the same object? Not while the codes of surfaces are changing. */
  private mayKeep = true

  constructor(source: ReachSource) {
    this.source = source
    const { extent, cellM } = source
    this.columns = columnsAlong(extent.maxX - extent.minX, cellM)
    this.rows = columnsAlong(extent.maxY - extent.minY, cellM)
    this.tilesX = Math.ceil(this.columns / TILE)
    this.tilesY = Math.ceil(this.rows / TILE)
  }

  /** The tiles a new source makes stale, or undefined when it needs a map of its own. */
  planFor(source: ReachSource): ReachWork | undefined {
    if (this.tiles.length > 0 && !sameRules(this.source, source)) return undefined
    const renumbered = this.tiles.length > 0 ? renumbering(this.source.terrain, source.terrain) : undefined
    this.mayKeep = renumbered === undefined
    const changed = this.tiles.length === 0 ? 'everywhere' : this.changesTo(source)
    const tiles: number[] = []
    const boxes = changed === 'everywhere' ? [] : changed.map((b) => growBox(b, source.radiusM + 3 * source.cellM))
    for (let k = 0; k < this.tilesX * this.tilesY; k++) {
      if (changed === 'everywhere' || this.unsettled.has(k) || boxes.some((b) => boxesMeet(b, this.tileBox(k))))
        tiles.push(k)
    }
    return { source, changed, tiles, renumbered }
  }

  private changesTo(source: ReachSource): Box2[] | 'everywhere' {
    const terrain = terrainChanges(this.source.terrain, source.terrain)
    return terrain === 'everywhere' ? terrain : [...terrain, ...fineChanges(this.source.fine, source.fine)]
  }

  /** Does the work a plan calls for, all of it. */
  carryOut(work: ReachWork): void {
    const builder = new TileBuilder(work.source)
    for (const k of work.tiles) this.buildTile(builder, k)
    this.finish(work)
  }

  /** Builds one tile of a plan; the map answers for the new source only after `finish`. */
  buildTile(builder: TileBuilder, k: number): void {
    this.putTile(k, builder.build(...this.firstColumn(k)))
  }

  /** The first column of a tile, as a builder wants it. */
  firstColumn(k: number): [number, number] {
    return [(k % this.tilesX) * TILE, Math.floor(k / this.tilesX) * TILE]
  }

  /** Takes a tile of a plan that has been built, here or in another thread. */
  putTile(k: number, built: Tile): void {
    const old = this.tiles[k]
    if (!(old && this.mayKeep && !this.unsettled.has(k) && sameTile(old, built))) this.tiles[k] = built
    this.unsettled.add(k)
  }

  finish(work: ReachWork): void {
    this.source = work.source
    this.unsettled.clear()
    if (work.renumbered) {
      const built = new Set(work.tiles)
      this.tiles.forEach((tile, k) => {
        if (built.has(k)) return
        renumber(tile.surface, work.renumbered!)
        renumberOwners(tile.held.bars, work.renumbered!)
      })
    }
    if (work.tiles.length > 0 || this.version === 0) {
      this.islands = joinIslands(this)
      this.version++
    }
  }

  tileBox(k: number): Box2 {
    const { extent, cellM } = this.source
    const side = TILE * cellM
    const minX = extent.minX + (k % this.tilesX) * side
    const minY = extent.minY + Math.floor(k / this.tilesX) * side
    return { minX, minY, maxX: minX + side, maxY: minY + side }
  }

  /** Middle of a column, metres. */
  middleX(spot: Spot): number {
    return this.source.extent.minX + (this.tiles[spot.tile].i0 + (spot.column % TILE) + 0.5) * this.source.cellM
  }

  middleY(spot: Spot): number {
    return (
      this.source.extent.minY + (this.tiles[spot.tile].j0 + Math.floor(spot.column / TILE) + 0.5) * this.source.cellM
    )
  }

  /** A free place on a floor that can be reached, metres: the column's middle where nothing is near. */
  placeOn(spot: Spot): Point3 {
    const { held, z } = this.tiles[spot.tile]
    const height = z[spot.floor]
    if (spot.more !== undefined) return [held.more.place[spot.more * 2], held.more.place[spot.more * 2 + 1], height]
    const k = held.index.length > 0 ? held.index[spot.floor] - 1 : -1
    if (k < 0) return [this.middleX(spot), this.middleY(spot), height]
    return [held.place[k * 2], held.place[k * 2 + 1], height]
  }

  /** How near a place in a floor's column is to an exact line, metres; Infinity when none is within the radius. */
  lineDistance(spot: Spot, x: number, y: number): number {
    return lineDistance(this.source, this.tiles[spot.tile], spot.floor, x, y)
  }

  /** Can the body's middle be just here, on this floor? */
  isFree(spot: Spot, x: number, y: number): boolean {
    return this.isReached(spot) && this.lineDistance(spot, x, y) >= freeRadius(this.source.radiusM)
  }

  /** Is a place in the column a body is on, and all of that column free on its floor? Then it may go there unasked. */
  isOpen(tile: number, column: number, floor: number, x: number, y: number): boolean {
    const { i0, j0, held } = this.tiles[tile]
    if (held.index.length > 0 && held.index[floor] !== 0) return false
    const { extent, cellM } = this.source
    return (
      Math.floor((x - extent.minX) / cellM) === i0 + (column & (TILE - 1)) &&
      Math.floor((y - extent.minY) / cellM) === j0 + (column >> TILE_SHIFT)
    )
  }

  /** The floor with the separate part of its column's free space that a place in it lies in. */
  inPart(spot: Spot, x: number, y: number): Spot {
    const tile = this.tiles[spot.tile]
    const { more } = tile.held
    let best = spot
    let nearest = Infinity
    if (!more.floor.includes(spot.floor)) return spot
    const n = heldLines(this.source, tile, spot.floor)
    const rho = freeRadius(this.source.radiusM)
    const offer = (at: Spot) => {
      const [px, py] = this.placeOn(at)
      let m = Math.sqrt((px - x) * (px - x) + (py - y) * (py - y))
      // A place that can be gone to straight lies in the same part for certain.
      for (let k = 0; k < n; k++) {
        const [ax, ay, bx, by] = lines.subarray(k * 4, k * 4 + 4)
        if (linesApart2(x, y, px, py, ax, ay, bx, by) < rho * rho) m += 10
      }
      if (m >= nearest) return
      nearest = m
      best = at
    }
    offer(spot)
    more.floor.forEach((f, k) => {
      if (f === spot.floor) offer({ ...spot, more: k })
    })
    return best
  }

  /** Height of a floor, metres. */
  zOf(spot: Spot): number {
    return this.tiles[spot.tile].z[spot.floor]
  }

  /** The floor a thing at (x, y, z) belongs to, reached or not; undefined outside the extent. */
  floorAt(x: number, y: number, z: number, toleranceM = 0.25): Spot | undefined {
    const { extent, cellM } = this.source
    const i = Math.floor((x - extent.minX) / cellM)
    const j = Math.floor((y - extent.minY) / cellM)
    if (!(i >= 0 && j >= 0 && i < this.columns && j < this.rows)) return undefined
    const k = Math.floor(j / TILE) * this.tilesX + Math.floor(i / TILE)
    const tile = this.tiles[k]
    const column = (j % TILE) * TILE + (i % TILE)
    const first = tile.start[column]
    const end = tile.start[column + 1]
    if (end === first) return undefined
    let floor = first
    for (let f = first; f < end; f++) if (tile.z[f] <= z + toleranceM) floor = f
    return { tile: k, column, floor }
  }

  /** All floors over a place, the lowest first, on which the body's middle can be just there. */
  reachedFloors(x: number, y: number): Spot[] {
    const lowest = this.floorAt(x, y, -Infinity)
    if (!lowest) return []
    const { start } = this.tiles[lowest.tile]
    const spots: Spot[] = []
    for (let floor = start[lowest.column]; floor < start[lowest.column + 1]; floor++) {
      const spot = { ...lowest, floor }
      if (!this.isFree(spot, x, y)) continue
      const part = this.inPart(spot, x, y)
      if (part) spots.push(part)
    }
    return spots
  }

  isReached(spot: Spot): boolean {
    return this.tiles[spot.tile].reach[spot.floor] === 1
  }

  /**
   * The floor at a place where the body's middle can be. What is known by columns only is not taken more exactly than
   * that: then one of the columns around does as well.
   */
  reachedAt(x: number, y: number, z: number): Spot | undefined {
    const { cellM, stepM } = this.source
    const toleranceM = Math.max(0.25, stepM)
    const here = this.floorAt(x, y, z, toleranceM)
    if (!here) return undefined
    if (this.isFree(here, x, y) && this.zOf(here) <= z + toleranceM) return this.inPart(here, x, y)
    if (this.lineDistance(here, x, y) < freeRadius(this.source.radiusM) || this.isReached(here)) return undefined
    let best: Spot | undefined
    let bestM = Infinity
    for (let dj = -1; dj <= 1; dj++) {
      for (let di = -1; di <= 1; di++) {
        const spot = this.floorAt(x + di * cellM, y + dj * cellM, z, toleranceM)
        if (!spot || !this.isReached(spot) || Math.abs(this.zOf(spot) - z) > 1) continue
        if (this.lineDistance(spot, x, y) < freeRadius(this.source.radiusM)) continue
        const [px, py] = this.placeOn(spot)
        const m = (px - x) * (px - x) + (py - y) * (py - y)
        if (m >= bestM) continue
        best = spot
        bestM = m
      }
    }
    return best
  }

  /** The place in a floor's column nearest to (x, y) where the body's middle can be, metres. */
  nearestOn(spot: Spot, x: number, y: number): Point3 {
    const half = this.source.cellM / 2 - 1e-4
    const [mx, my] = [this.middleX(spot), this.middleY(spot)]
    let px = Math.min(mx + half, Math.max(mx - half, x))
    let py = Math.min(my + half, Math.max(my - half, y))
    const { radiusM } = this.source
    for (let k = 0; k < PUSHES; k++) {
      const n = heldLines(this.source, this.tiles[spot.tile], spot.floor)
      const m = n === 0 ? Infinity : awayFromLines(n, px, py)
      if (m >= freeRadius(radiusM)) return [px, py, this.zOf(spot)]
      if (m < 1e-9) break
      // Straight away from the nearest line, to just the radius, but not out of the column.
      px = Math.min(mx + half, Math.max(mx - half, away[0] + ((px - away[0]) / m) * radiusM))
      py = Math.min(my + half, Math.max(my - half, away[1] + ((py - away[1]) / m) * radiusM))
    }
    return this.placeOn(spot)
  }

  /** The nearest place the body's middle can be, on a given island or any; undefined when there is none near. */
  nearestReached(
    x: number,
    y: number,
    z: number,
    withinM: number,
    island = -1,
  ): { spot: Spot; at: Point3 } | undefined {
    const { cellM } = this.source
    const rings = Math.ceil(withinM / cellM)
    let best: { spot: Spot; at: Point3 } | undefined
    let bestM = withinM
    for (let ring = 0; ring <= rings && ring * cellM <= bestM + cellM; ring++) {
      for (let dj = -ring; dj <= ring; dj++) {
        const step = Math.abs(dj) === ring ? 1 : 2 * ring
        for (let di = -ring; di <= ring; di += Math.max(1, step)) {
          const spot = this.floorAt(x + di * cellM, y + dj * cellM, z, 1.5)
          if (!spot || !this.isReached(spot) || (island >= 0 && this.islandOf(spot) !== island)) continue
          const at = this.nearestOn(spot, x, y)
          const m = Math.sqrt((at[0] - x) ** 2 + (at[1] - y) ** 2 + (at[2] - z) ** 2)
          if (m >= bestM) continue
          best = { spot, at }
          bestM = m
        }
      }
    }
    return best
  }

  /** The island a reached floor belongs to, 0 being the largest; −1 for floors out of reach. */
  islandOf(spot: Spot): number {
    const tile = this.tiles[spot.tile]
    const part = tile.part[spot.more === undefined ? spot.floor : tile.reach.length + spot.more]
    return part === 65535 ? -1 : this.islands.ofPart[this.islands.partBase[spot.tile] + part]
  }
}

/** A reach map built at once. */
/** New codes of surfaces by old ones where any differs: both lists of solids and meshes are in the order of their ids. */
function renumbering(before: Terrain, after: Terrain): ReadonlyMap<number, number> | undefined {
  if (before === after) return undefined
  const codes = (terrain: Terrain) => {
    const of = new Map<string, number>()
    const note = (id: string, code: number) => {
      // Stairs have several shapes with one id.
      let n = 0
      while (of.has(`${id} ${n}`)) n++
      of.set(`${id} ${n}`, code)
    }
    terrain.solids.forEach((s, k) => note(s.id, k))
    terrain.meshes.forEach((m, k) => note(m.id, meshSurface(k)))
    return of
  }
  const sameOrder =
    before.solids.length === after.solids.length &&
    before.meshes.length === after.meshes.length &&
    before.solids.every((s, k) => s.id === after.solids[k].id) &&
    before.meshes.every((m, k) => m.id === after.meshes[k].id)
  if (sameOrder) return undefined
  const now = codes(after)
  const map = new Map<number, number>()
  for (const [key, code] of codes(before)) {
    const to = now.get(key)
    if (to !== undefined && to !== code) map.set(code, to)
  }
  return map.size > 0 ? map : undefined
}

function renumber(surface: Int32Array, codes: ReadonlyMap<number, number>): void {
  for (let f = 0; f < surface.length; f++) {
    if (surface[f] === GROUND) continue
    const to = codes.get(surface[f])
    if (to !== undefined) surface[f] = to
  }
}

function renumberOwners({ kind, owner }: Tile['held']['bars'], codes: ReadonlyMap<number, number>): void {
  for (let k = 0; k < owner.length; k++) {
    if (kind[k] === SIDE || kind[k] === RIM) owner[k] = codes.get(owner[k]) ?? owner[k]
  }
}

type Numbers = Uint8Array | Uint16Array | Uint32Array | Int32Array | Float32Array | Float64Array

/** Have two arrays the same bytes? Compared four at a time: one loop for every kind of array. */
function sameNumbers(a: Numbers, b: Numbers): boolean {
  if (a.length !== b.length) return false
  const words = a.byteLength >> 2
  const p = new Uint32Array(a.buffer, a.byteOffset, words)
  const q = new Uint32Array(b.buffer, b.byteOffset, words)
  for (let k = 0; k < words; k++) if (p[k] !== q[k]) return false
  for (let k = words << 2; k < a.byteLength; k++) {
    if (new Uint8Array(a.buffer, a.byteOffset)[k] !== new Uint8Array(b.buffer, b.byteOffset)[k]) return false
  }
  return true
}

/** Is a rebuilt tile just what it was? Then everything worked out from it holds. */
function sameTile(a: Tile, b: Tile): boolean {
  const [p, q] = [a.outline, b.outline]
  return (
    sameNumbers(a.start, b.start) &&
    sameNumbers(a.clearMm, b.clearMm) &&
    sameNumbers(a.z, b.z) &&
    sameNumbers(a.links, b.links) &&
    sameNumbers(a.stand, b.stand) &&
    sameNumbers(a.surface, b.surface) &&
    sameNumbers(a.reach, b.reach) &&
    sameNumbers(a.held.index, b.held.index) &&
    sameNumbers(a.held.from, b.held.from) &&
    sameNumbers(a.held.by, b.held.by) &&
    sameNumbers(a.held.bars.line, b.held.bars.line) &&
    sameNumbers(a.held.bars.holds, b.held.bars.holds) &&
    sameNumbers(a.held.bars.owner, b.held.bars.owner) &&
    sameNumbers(p.corners.vertex, q.corners.vertex) &&
    sameNumbers(p.corners.wedge, q.corners.wedge) &&
    p.rings.length === q.rings.length &&
    p.rings.every((r, k) => r.part === q.rings[k].part && sameNumbers(r.xy, q.rings[k].xy)) &&
    p.edges.length === q.edges.length &&
    p.edges.every((e, k) => sameNumbers(e, q.edges[k]))
  )
}

export function buildReach(source: ReachSource): ReachMap {
  const map = new ReachMap(source)
  map.carryOut(map.planFor(source)!)
  return map
}
