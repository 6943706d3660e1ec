import { z } from 'zod'
import { field, kept, METRES, name, ring } from '../../fields'
import { defineKind } from '../kind'

export const zoneSchema = z.strictObject({
  name,
  purpose: field(z.enum(['wander', 'guard', 'hold', 'start', 'contest']).default('wander'), { label: 'purpose' }),
  ring,
  columnM: field(z.number().min(0.02).max(1).nullable().default(null), {
    ...METRES,
    label: 'finer columns',
    none: 'as elsewhere',
  }),
  ...kept,
})
export type Zone = z.output<typeof zoneSchema>

export const zone = defineKind({ in: 'zones', prefix: 'zn', word: 'zone', schema: zoneSchema, stands: true })
