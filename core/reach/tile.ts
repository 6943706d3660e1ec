import type { Bars } from './bars'
import type { FreeParts } from './free-parts'

/** Columns along one side of a tile, a power of two. */
export const TILE_SHIFT = 6
export const TILE = 1 << TILE_SHIFT
/** Marks a neighbour that cannot be stepped to, and a floor in no part. */
export const NONE = 255
export const NO_PART = 65535

/** Why nobody stands on a floor by itself; 0 when somebody can. Closeness to walls is kept apart, as a clearance. */
export const STANDS = 0
export const STEEP = 1
export const LOW = 2
export const DEEP = 3
export const SHUT = 4
export const OUTSIDE = 5
export const OFF_LIMITS = 6
export const SHALLOW = 7
export const DRY = 8

/** Directions of `links`: east, north, west, south. */
export const DIR_X = [1, 0, -1, 0] as const
export const DIR_Y = [0, 1, 0, -1] as const

/** A square of the reach map. All arrays but `start` have an entry for each floor. */
export interface Tile {
  /** First column of the tile, counted from the extent's corner. */
  readonly i0: number
  readonly j0: number
  /** Where each column's floors begin, row by row; one more entry than columns. */
  readonly start: Uint16Array
  readonly z: Float32Array
  /** What the floor is the top of: a surface's code, as `floorsAt` gives it. */
  readonly surface: Int32Array
  readonly stand: Uint8Array
  /**
   * Distance from the column's middle to what is known only by columns or triangles (steep or deep ground, meshes),
   * millimetres; capped at a little over the radius.
   */
  readonly clearMm: Uint16Array
  /** Four for each floor: which floor of the neighbouring column one steps to, or NONE. */
  readonly links: Uint8Array
  /** Can the body's middle be somewhere in this column? */
  readonly reach: Uint8Array
  readonly held: Held
  /** Part of the tile each floor is connected to, or NO_PART; after them those of the places in `held.more`. */
  readonly part: Uint16Array
  /** Number of columns in each part. */
  readonly partSize: Uint32Array
  readonly outline: TileOutline
}

/** Corners by the floor and column they lie in: x, y of each, and inX, inY, outX, outY as in `Corners`. */
export interface HeldCorners {
  readonly floor: Uint16Array
  readonly column: Uint16Array
  readonly place: Float64Array
  readonly wedge: Float32Array
}

/** What exact lines leave of the columns near them. */
export interface Held {
  readonly bars: Bars
  /** For each floor 0, or one more than its number among those with a bar near; empty when none has. */
  readonly index: Uint16Array
  /** Where the bars of each such floor begin in `by`; one more entry than there are. */
  readonly from: Uint32Array
  readonly by: Uint16Array
  /** x, y of a free place on each such floor, metres. */
  readonly place: Float64Array
  /** Places a shortest path may bend at round the ends of exact lines. */
  readonly corners: HeldCorners
  /** Floors of columns whose free space is in several parts, once for each part but the first, and a place in it. */
  readonly more: { readonly floor: Uint16Array; readonly place: Float64Array }
  /** Free parts of floors on the tile's rim, for joining it to its neighbours. */
  readonly rim: ReadonlyMap<number, FreeParts>
}

/** The edge of the reach inside one tile. */
export interface TileOutline {
  /** Closed rings as flat x, y pairs in metres, and the part each belongs to: for filling. */
  readonly rings: readonly { readonly part: number; readonly xy: Float32Array; readonly z: number }[]
  /** Lines along real edges as flat x, y pairs in metres: for inking. */
  readonly edges: readonly Float32Array[]
  /** Places a shortest path may bend at. */
  readonly corners: Corners
}

/**
 * A corner is a floor, and the directions along the outline into it and out of it. Where the outline is cut by the
 * tile's rim one of the two is 0, 0; it continues from the same vertex in the next tile.
 */
export interface Corners {
  readonly count: number
  readonly floor: Uint16Array
  readonly column: Uint16Array
  /** inX, inY, outX, outY for each corner. */
  readonly wedge: Float32Array
  /** The vertex of the outline, in columns from the extent's corner: x, y for each corner. */
  readonly vertex: Int32Array
}
