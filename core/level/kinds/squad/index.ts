import { z } from 'zod'
import { field, id, kept, name } from '../../fields'
import { defineKind } from '../kind'

/** A group that shares a brief, a zone and its posts. What a spawner says of itself goes before what its squad says. */
export const squadSchema = z.strictObject({
  name,
  factionId: field(id.nullable().default(null), { label: 'faction', none: 'none' }),
  briefId: field(id.nullable().default(null), { label: 'brief', none: 'none' }),
  zoneId: field(id.nullable().default(null), { label: 'zone', none: 'none' }),
  ...kept,
})
export type Squad = z.output<typeof squadSchema>

export const squad = defineKind({
  in: 'squads',
  prefix: 'sq',
  word: 'squad',
  schema: squadSchema,
  refs: [
    { path: 'factionId', to: 'factions', onLost: 'clear' },
    { path: 'briefId', to: 'briefs', onLost: 'clear' },
    { path: 'zoneId', to: 'zones', onLost: 'clear' },
  ],
})
