import type { Beside } from './beside'
import type { GeoFrame, GeoRead } from './geojson/read'
import type { HeightsOptions, HeightsRead } from './heights'
import type { LaneMap, StreetMap } from '@tidytrail/core/traffic'
import type { MeshOptions, MeshRead } from './mesh-cleaning'

interface About<I extends string> {
  readonly id: I
  readonly word: string
  /** What names of such files end in. */
  readonly endings: readonly string[]
  /** May a file with such an ending be of this format? Where several may, the likeliest is the first. */
  sniff?(bytes: Uint8Array): boolean | 'perhaps'
}

/** A format that can be read, by what comes of it. */
export type Format<I extends string = string> =
  | (About<I> & {
      readonly gives: 'mesh'
      read(bytes: Uint8Array<ArrayBuffer>, options: MeshOptions, beside?: Beside): MeshRead | Promise<MeshRead>
    })
  | (About<I> & {
      readonly gives: 'heights'
      read(bytes: Uint8Array<ArrayBuffer>, options: HeightsOptions): HeightsRead
      /** Does it say only how high samples are beside one another, so that a range must be given? */
      readonly ranged: boolean
    })
  | (About<I> & { readonly gives: 'features'; read(text: string, frame: GeoFrame): GeoRead })
  | (About<I> & { readonly gives: 'streets'; read(text: string): StreetMap })
  | (About<I> & { readonly gives: 'lanes'; read(bytes: Uint8Array): LaneMap })
  | (About<I> & { readonly gives: 'picture' })

export type FormatOf<G extends Format['gives']> = Extract<Format, { gives: G }>
