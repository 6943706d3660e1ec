import { z } from 'zod'
import { bearing, DEGREES, field, flag, id, kept, name, point3, seconds } from '../../fields'
import { LIMITS } from '../../limits'
import { defineKind } from '../kind'

export const spawnerSchema = z.strictObject({
  name,
  at: point3,
  profileId: field(id.nullable(), { label: 'profile', none: 'none chosen' }),
  factionId: field(id.nullable().default(null), { label: 'faction', none: 'none' }),
  briefId: field(id.nullable().default(null), { label: 'brief', none: 'none' }),
  count: field(z.number().int().min(1).max(LIMITS.spawnCount).default(1), { label: 'how many', step: 0.05, digits: 0 }),
  firstAfterS: field(seconds.default(0), { label: 'first after', unit: 's', step: 0.1 }),
  everyS: field(seconds.default(2), { label: 'then every', unit: 's', step: 0.1 }),
  facingRad: field(bearing.default(0), { ...DEGREES, label: 'faces' }),
  /** Does it send somebody who stands in for a player, whom others look out for and who can be steered? */
  standIn: field(flag(false), { label: 'stands in for a player' }),
  ...kept,
})
export type Spawner = z.output<typeof spawnerSchema>

export const spawner = defineKind({
  in: 'spawners',
  prefix: 'sp',
  word: 'spawner',
  schema: spawnerSchema,
  refs: [
    { path: 'profileId', to: 'profiles', onLost: 'clear' },
    { path: 'factionId', to: 'factions', onLost: 'clear' },
    { path: 'briefId', to: 'briefs', onLost: 'clear' },
  ],
  stands: true,
})
