import { z } from 'zod'
import { kept, name, restriction, ring } from '../../fields'
import { defineKind, RESTRICTS } from '../kind'

export const reachAreaSchema = z.strictObject({ name, ring, ...restriction, ...kept })
export type ReachArea = z.output<typeof reachAreaSchema>

export const reachArea = defineKind({
  in: 'reachAreas',
  prefix: 'ra',
  word: 'reach area',
  schema: reachAreaSchema,
  refs: [RESTRICTS],
  stands: true,
})
