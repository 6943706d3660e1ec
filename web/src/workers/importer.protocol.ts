import type { GeoFrame, GeoRead, GivenFile, HeightsOptions, HeightsRead, MeshOptions } from '@tidytrail/core/formats'
import type { LevelFile } from '@tidytrail/core/level'
import type { LaneMap, StreetMap } from '@tidytrail/core/traffic'
import type { MeshPlan } from '../stores/assets'

export interface MeshImport {
  /** The asset to be kept. */
  readonly packed: Uint8Array<ArrayBuffer>
  readonly plan: MeshPlan
  readonly triangles: number
  readonly min: readonly [number, number, number]
  readonly max: readonly [number, number, number]
  readonly repairs: readonly string[]
}

export interface HeightsImport {
  readonly packed: Uint8Array<ArrayBuffer>
  readonly columns: number
  readonly rows: number
  readonly lowM: number
  readonly highM: number
  readonly spacingM: number | undefined
  readonly origin: readonly [number, number] | undefined
  readonly cells: HeightsRead['cells']
  readonly holes: NonNullable<HeightsRead['holes']>
  readonly repairs: readonly string[]
  /** A small picture of the heights: shades from 0 to 255, north row first. */
  readonly preview: { readonly width: number; readonly height: number; readonly shade: Uint8ClampedArray }
}

/** Reads files away from the page, so that it stays quick whatever is in them. */
export interface Importer {
  /** @param beside the other files that were given with it */
  mesh(
    format: string,
    bytes: Uint8Array<ArrayBuffer>,
    options: MeshOptions,
    beside: readonly GivenFile[],
  ): Promise<MeshImport>
  /** The files of a zip archive. */
  unpack(bytes: Uint8Array<ArrayBuffer>): Promise<GivenFile[]>
  heights(format: string, bytes: Uint8Array<ArrayBuffer>, options: HeightsOptions): Promise<HeightsImport>
  geo(format: string, text: string, frame: GeoFrame): Promise<GeoRead>
  streets(format: string, text: string): Promise<StreetMap>
  lanes(format: string, bytes: Uint8Array<ArrayBuffer>): Promise<LaneMap>
  /** A level file, with the assets that came along in it. */
  level(bytes: Uint8Array<ArrayBuffer>): LevelFile
}
