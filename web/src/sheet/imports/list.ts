import type { Format } from '@tidytrail/core/formats'
import { featuresImport } from './features'
import { heightsImport } from './heights'
import type { ImportKind } from './import-form'
import { lanesImport } from './lanes'
import { meshImport } from './mesh'
import { pictureImport } from './picture'
import { streetsImport } from './streets'

/** How whatever a format gives is imported. */
const IMPORTS = [
  meshImport,
  heightsImport,
  featuresImport,
  streetsImport,
  lanesImport,
  pictureImport,
] as unknown as readonly ImportKind<unknown>[]

export const importOf = (format: Format): ImportKind<unknown> => IMPORTS.find((i) => i.gives === format.gives)!
