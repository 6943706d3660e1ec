import { z } from 'zod'
import { assetHashSchema, bearing, TURNED, field, flag, kept, name, PLACE, point3 } from '../../fields'
import { defineKind } from '../kind'

/** Imported geometry: triangles kept as an asset, and where they stand. */
export const meshSchema = z.strictObject({
  name,
  assetId: assetHashSchema,
  at: field(point3, PLACE),
  turnRad: field(bearing.default(0), { ...TURNED, label: 'turned' }),
  scale: field(z.number().gt(0).max(10_000).default(1), { label: 'scale', unit: '×', step: 0.01, digits: 4 }),
  walkable: field(flag(true), { label: 'agents may stand on it' }),
  blocksSight: field(flag(true), { label: 'blocks sight' }),
  ...kept,
})
export type Mesh = z.output<typeof meshSchema>

export const mesh = defineKind({
  in: 'meshes',
  prefix: 'ms',
  word: 'mesh',
  plural: 'meshes',
  schema: meshSchema,
  stands: true,
})
