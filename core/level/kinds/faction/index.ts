import { z } from 'zod'
import { field, id, kept, name } from '../../fields'
import { defineKind } from '../kind'

export const factionSchema = z.strictObject({
  name,
  hostileTo: z.array(id).max(200).default([]),
  pattern: field(z.enum(['plain', 'striped', 'dotted', 'ringed']).default('plain'), { label: 'pattern' }),
  ...kept,
})
export type Faction = z.output<typeof factionSchema>

export const faction = defineKind({
  in: 'factions',
  prefix: 'fc',
  word: 'faction',
  schema: factionSchema,
  refs: [{ path: 'hostileTo.*', to: 'factions', onLost: 'drop' }],
})
