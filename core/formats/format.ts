import type { Beside } from './beside'
import type { GeoFrame, GeoRead } from './geojson/read'
import type { HeightsRead } from './heights'
import type { MeshOptions, MeshRead } from './mesh-cleaning'

interface About<I extends string> {
  readonly id: I
  readonly word: string
  /** What names of such files end in. */
  readonly endings: readonly string[]
  /** Is a file with such an ending of this format? Where several have it, the first that says so. */
  sniff?(bytes: Uint8Array): boolean
}

/** A format that can be read, by what comes of it. */
export type Format<I extends string = string> =
  | (About<I> & {
      readonly gives: 'mesh'
      read(bytes: Uint8Array<ArrayBuffer>, options: MeshOptions, beside?: Beside): MeshRead | Promise<MeshRead>
    })
  | (About<I> & {
      readonly gives: 'heights'
      read(bytes: Uint8Array<ArrayBuffer>, range: { lowM: number; highM: number }): HeightsRead
      /** Does it say only how high samples are beside one another, so that a range must be given? */
      readonly ranged: boolean
    })
  | (About<I> & { readonly gives: 'features'; read(text: string, frame: GeoFrame): GeoRead })
  | (About<I> & { readonly gives: 'picture' })

export type FormatOf<G extends Format['gives']> = Extract<Format, { gives: G }>
