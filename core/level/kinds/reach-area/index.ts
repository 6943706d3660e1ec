import { z } from 'zod'
import { field, kept, METRES, name, restriction, ring } from '../../fields'
import { defineKind, RESTRICTS } from '../kind'

export const reachAreaSchema = z.strictObject({
  name,
  ring,
  ...restriction,
  /** Width of columns by which edges of ground and meshes are told in it, metres; null where the level's do. */
  columnM: field(z.number().min(0.02).max(1).nullable().default(null), {
    ...METRES,
    label: 'finer columns',
    none: 'as elsewhere',
    digits: 2,
  }),
  ...kept,
})
export type ReachArea = z.output<typeof reachAreaSchema>

export const reachArea = defineKind({
  in: 'reachAreas',
  prefix: 'ra',
  word: 'reach area',
  schema: reachAreaSchema,
  refs: [RESTRICTS],
  stands: true,
})
