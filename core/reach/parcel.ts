import type { Held, Tile } from './tile'
import { NOTHING_HELD } from './tile-held'

/** A tile on its way to another thread. What tiles share with one another stays behind: it is there already. */
export interface TileParcel {
  readonly tile: Omit<Tile, 'held'> & { readonly held: Held | undefined }
  /** The memory of all its arrays, to be handed over without being copied. */
  readonly buffers: readonly ArrayBuffer[]
}

/** Makes a tile ready to be sent; it is of no use here afterwards. Not for tiles whose builder shares their arrays. */
export function packTile(tile: Tile): TileParcel {
  const { held, ...rest } = tile
  const packed = { ...rest, held: held === NOTHING_HELD ? undefined : held }
  const buffers = new Set<ArrayBuffer>()
  const look = (value: unknown): void => {
    if (ArrayBuffer.isView(value)) buffers.add(value.buffer as ArrayBuffer)
    else if (typeof value === 'object' && value !== null) for (const inner of Object.values(value)) look(inner)
  }
  look(packed)
  return { tile: packed, buffers: [...buffers] }
}

/** The tile that was sent. */
export function unpackTile({ tile }: Pick<TileParcel, 'tile'>): Tile {
  return { ...tile, held: tile.held ?? NOTHING_HELD }
}
