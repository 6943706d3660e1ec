import { z } from 'zod'
import { field, id, kept, name } from '../../fields'
import { defineKind } from '../kind'

export const FACTION_PATTERNS = ['plain', 'striped', 'dotted', 'ringed'] as const
export const FACTION_INKS = ['pine', 'rust', 'lake', 'plum', 'ochre', 'ink'] as const

export const factionSchema = z.strictObject({
  name,
  /** How it stands to others: to those it names in neither list it is neutral. */
  hostileTo: z.array(id).max(200).default([]),
  friendlyTo: z.array(id).max(200).default([]),
  pattern: field(z.enum(FACTION_PATTERNS).default('plain'), { label: 'pattern' }),
  ink: field(z.enum(FACTION_INKS).default('pine'), { label: 'ink' }),
  ...kept,
})
export type Faction = z.output<typeof factionSchema>

export const faction = defineKind({
  in: 'factions',
  prefix: 'fc',
  word: 'faction',
  schema: factionSchema,
  refs: [
    { path: 'hostileTo.*', to: 'factions', onLost: 'drop' },
    { path: 'friendlyTo.*', to: 'factions', onLost: 'drop' },
  ],
})

export { freshFaction, newStances, stanceOf, STANCES, type Stance } from './stance'
