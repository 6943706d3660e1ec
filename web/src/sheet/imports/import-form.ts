import type { Format, GeoFeature, GivenFile, HeightsOptions } from '@tidytrail/core/formats'
import type { Level } from '@tidytrail/core/level'
import type { Remote } from 'comlink'
import type { Component } from 'vue'
import type { useAssetStore } from '../../stores/assets'
import type { useLevelStore } from '../../stores/level'
import type { MeshPlan } from '../../stores/assets'
import type { useSheetStore } from '../../stores/sheet'
import type { HeightsImport, Importer } from '../../workers/importer.protocol'

/** All that can be said of an import by hand; each form shows what concerns its format. */
export interface ImportForm {
  upAxis: 'y' | 'z'
  scale: number
  x: number
  y: number
  z: number
  spacingM: number
  lowM: number
  highM: number
  channel: NonNullable<HeightsOptions['channel']>
  /** What the cells of heights are in; empty until the file has told. */
  cells: NonNullable<HeightsOptions['cells']> | ''
  holes: NonNullable<HeightsOptions['holes']>
  fitExtent: boolean
  units: 'metres' | 'degrees'
  originLon: number
  originLat: number
  /** Taken off coordinates in metres, which may be those of a national grid. */
  offsetX: number
  offsetY: number
  polygons: 'solids' | 'covers' | 'reachAreas' | 'nothing'
  lines: 'routes' | 'lanes' | 'walls' | 'nothing'
  points: 'markers' | 'stops' | 'nodes' | 'spawners' | 'nothing'
  /** Are heights of the file taken, instead of what is on the ground? */
  useHeights: boolean
  heightM: number
  wallM: number
  coverKind: string
  widthM: number
}

export const newForm = (): ImportForm => ({
  upAxis: 'y',
  scale: 1,
  x: 0,
  y: 0,
  z: 0,
  spacingM: 1,
  lowM: 0,
  highM: 20,
  channel: 'grey',
  cells: '',
  holes: 'fill',
  fitExtent: true,
  units: 'metres',
  originLon: 0,
  originLat: 0,
  offsetX: 0,
  offsetY: 0,
  polygons: 'solids',
  lines: 'routes',
  points: 'markers',
  useHeights: true,
  heightM: 4,
  wallM: 0.25,
  coverKind: 'road',
  widthM: 100,
})

/** A file that is to be imported, with those that were given together with it. */
export interface ImportFile {
  readonly name: string
  readonly bytes: Uint8Array<ArrayBuffer>
  readonly beside: readonly GivenFile[]
}

/** What the preview draws, in level metres. */
export type Shown =
  | { kind: 'mesh'; plan: MeshPlan; x: number; y: number }
  | { kind: 'shade'; preview: HeightsImport['preview']; x: number; y: number; wide: number; deep: number }
  | { kind: 'shapes'; features: readonly GeoFeature[]; x: number; y: number }
  | { kind: 'picture'; bitmap: ImageBitmap; x: number; y: number; wide: number; deep: number }

/** What carrying an import out may use. */
export interface ImportContext {
  readonly levels: ReturnType<typeof useLevelStore>
  readonly assets: ReturnType<typeof useAssetStore>
  readonly sheet: ReturnType<typeof useSheetStore>
}

/** How files that give something are imported: read, shown, and taken into the level. One file and one form each. */
export interface ImportKind<R> {
  readonly gives: Format['gives']
  readonly form: Component
  /** Does what is said in the form change how the file is read? */
  rereads(format: Format, form: ImportForm): readonly unknown[]
  read(importer: Remote<Importer>, format: Format, file: ImportFile, form: ImportForm, first: boolean): Promise<R>
  /** Sets what the file itself says, when it has been read for the first time. */
  settle?(form: ImportForm, read: R, level: Level): void
  facts(read: R, form: ImportForm): string
  repairs(read: R): readonly string[]
  shown(read: R, form: ImportForm): Shown
  /** @returns why nothing can be taken in, if so */
  carryOut(read: R, form: ImportForm, file: ImportFile, context: ImportContext): Promise<string | undefined>
}

/** The name of a file without its ending, as things that come of it are called. */
export const baseName = (file: ImportFile): string => file.name.replace(/\.[^.]+$/, '').slice(0, 100)
