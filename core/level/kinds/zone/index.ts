import { z } from 'zod'
import { field, kept, name, ring } from '../../fields'
import { defineKind } from '../kind'

export const zoneSchema = z.strictObject({
  name,
  purpose: field(z.enum(['wander', 'guard', 'hold', 'start', 'contest']).default('wander'), { label: 'purpose' }),
  ring,
  ...kept,
})
export type Zone = z.output<typeof zoneSchema>

export const zone = defineKind({ in: 'zones', prefix: 'zn', word: 'zone', schema: zoneSchema, stands: true })
