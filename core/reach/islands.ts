import type { Point3 } from '@tidytrail/core/geometry'
import { eachPartBeyond } from './free'
import { DIR_X, DIR_Y, NONE, TILE, type Tile } from './tile'

/** A connected part of the reach map. */
export interface Island {
  readonly areaM2: number
  /** Some place on it. */
  readonly at: Point3
}

export interface Islands {
  /** Island number of each part of each tile. */
  readonly ofPart: Int32Array
  /** Where each tile's parts begin in `ofPart`. */
  readonly partBase: Int32Array
  /** Largest first. */
  readonly list: readonly Island[]
}

/** Which parts of two tiles touch along the seam between them, for as long as both stay the same. */
export interface Seam {
  readonly a: Tile
  readonly b: Tile
  readonly pairs: Uint16Array
}

/** The tile's part that a free part of a floor's column belongs to. */
function partOf(tile: Tile, floor: number, ofFloor: number): number {
  if (ofFloor === 0) return tile.part[floor]
  return tile.part[tile.reach.length + tile.held.more.floor.indexOf(floor) + ofFloor - 1]
}

function seamPairs(known: Map<number, Seam>, a: Tile, b: Tile, key: number, d: 0 | 1): Uint16Array {
  const kept = known.get(key)
  if (kept?.a === a && kept.b === b) return kept.pairs
  const pairs: number[] = []
  for (let line = 0; line < TILE; line++) {
    const from = d === 0 ? line * TILE + TILE - 1 : (TILE - 1) * TILE + line
    const to = d === 0 ? line * TILE : line
    for (let f = a.start[from]; f < a.start[from + 1]; f++) {
      const link = a.links[f * 4 + d]
      if (!a.reach[f] || link === NONE) continue
      const g = b.start[to] + link
      if (!b.reach[g]) continue
      const mine = a.held.rim.get(f)
      const theirs = b.held.rim.get(g)
      for (let ofF = 0; ofF < (mine ? mine.places.length / 2 : 1); ofF++) {
        eachPartBeyond(mine, ofF, d, theirs, (ofG) => {
          const p = partOf(a, f, ofF)
          const q = partOf(b, g, ofG)
          const n = pairs.length
          if (n === 0 || pairs[n - 2] !== p || pairs[n - 1] !== q) pairs.push(p, q)
        })
      }
    }
  }
  const seam = { a, b, pairs: Uint16Array.from(pairs) }
  known.set(key, seam)
  return seam.pairs
}

/** Of a reach map, what its islands are worked out from. */
interface TiledMap {
  readonly tiles: readonly Tile[]
  readonly tilesX: number
  readonly tilesY: number
  readonly seams: Map<number, Seam>
  readonly source: { readonly cellM: number }
  placeOn(spot: { tile: number; column: number; floor: number; more?: number }): Point3
}

/** Joins the parts of neighbouring tiles into islands and numbers them by area. */
export function joinIslands(map: TiledMap): Islands {
  const { tiles, tilesX, tilesY } = map
  const partBase = new Int32Array(tiles.length + 1)
  for (let k = 0; k < tiles.length; k++) partBase[k + 1] = partBase[k] + tiles[k].partSize.length
  const total = partBase[tiles.length]
  const parent = new Int32Array(total)
  for (let p = 0; p < total; p++) parent[p] = p
  const root = (p: number): number => {
    while (parent[p] !== p) p = parent[p] = parent[parent[p]]
    return p
  }

  const joinSeam = (k: number, other: number, d: 0 | 1) => {
    const pairs = seamPairs(map.seams, tiles[k], tiles[other], k * 2 + d, d)
    for (let p = 0; p < pairs.length; p += 2)
      parent[root(partBase[k] + pairs[p])] = root(partBase[other] + pairs[p + 1])
  }
  for (let ty = 0; ty < tilesY; ty++) {
    for (let tx = 0; tx < tilesX; tx++) {
      const k = ty * tilesX + tx
      if (tx + 1 < tilesX) joinSeam(k, k + DIR_X[0], 0)
      if (ty + 1 < tilesY) joinSeam(k, k + DIR_Y[1] * tilesX, 1)
    }
  }

  const size = new Float64Array(total)
  for (let k = 0; k < tiles.length; k++) {
    const { partSize } = tiles[k]
    for (let p = 0; p < partSize.length; p++) size[root(partBase[k] + p)] += partSize[p]
  }
  const roots: number[] = []
  for (let p = 0; p < total; p++) if (parent[p] === p) roots.push(p)
  roots.sort((a, b) => size[b] - size[a] || a - b)
  const number = new Int32Array(total).fill(-1)
  roots.forEach((p, n) => (number[p] = n))
  const ofPart = new Int32Array(total)
  for (let p = 0; p < total; p++) ofPart[p] = number[root(p)]

  const at: Point3[] = []
  for (let k = 0; k < tiles.length; k++) {
    const tile = tiles[k]
    const wanted = new Set<number>()
    for (let p = 0; p < tile.partSize.length; p++) if (!at[ofPart[partBase[k] + p]]) wanted.add(p)
    if (wanted.size === 0) continue
    for (let column = 0; column < TILE * TILE && wanted.size > 0; column++) {
      for (let f = tile.start[column]; f < tile.start[column + 1]; f++) {
        if (!wanted.delete(tile.part[f])) continue
        const spot = { tile: k, column, floor: f }
        at[ofPart[partBase[k] + tile.part[f]]] ??= map.placeOn(spot)
      }
    }
    tile.held.more.floor.forEach((floor, more) => {
      const part = tile.part[tile.reach.length + more]
      if (wanted.delete(part)) at[ofPart[partBase[k] + part]] ??= map.placeOn({ tile: k, column: 0, floor, more })
    })
  }
  const cell2 = map.source.cellM * map.source.cellM
  return { ofPart, partBase, list: roots.map((p, n) => ({ areaM2: size[p] * cell2, at: at[n] })) }
}
