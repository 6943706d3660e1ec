import type { Level, PatchOp } from '@tidytrail/core/level'
import type { TileParcel } from '@tidytrail/core/reach'

/** Tiles as they are sent: undefined for each that is not worth sending. */
export type SentTiles = readonly (TileParcel['tile'] | undefined)[]

/**
 * Builds tiles of reach maps beside the surveyor, from a mirror of its level. Every change has a number, the edition;
 * what is asked about another edition than the newest is left to whoever asks.
 */
export interface Tiler {
  setLevel(level: Level, edition: number): void
  patch(ops: PatchOp[], edition: number): void
  give(hash: string, bytes: Uint8Array, edition: number): void
  /** Tiles of a profile's reach map, in the order they are asked for. */
  build(edition: number, profileId: string, tiles: readonly number[]): SentTiles
}
