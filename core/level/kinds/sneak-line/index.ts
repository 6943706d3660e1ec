import { z } from 'zod'
import { field, flag, kept, name, points3 } from '../../fields'
import { defineKind } from '../kind'
import { watchedParts } from '../watch-spot'

const PACE = { unit: 'm/s', step: 0.02, digits: 2 } as const

export const sneakLineSchema = z.strictObject({
  name,
  /** The line a player would take, corner by corner. */
  points: points3.min(2, 'needs at least two places'),
  paceMps: field(z.number().min(0.1).max(20).default(1.4), { ...PACE, label: 'pace' }),
  /** The slowest it may be gone where nobody is to stand still. */
  slowMps: field(z.number().min(0.05).max(20).default(0.7), { ...PACE, label: 'slowest pace' }),
  waits: field(z.enum(['anywhere', 'corners', 'nowhere']).default('anywhere'), {
    label: 'may wait',
    words: { corners: 'at its corners' },
  }),
  /** Does being heard give somebody away as well? */
  hears: field(flag(false), { label: 'being heard counts too' }),
  ...watchedParts,
  ...kept,
})
export type SneakLine = z.output<typeof sneakLineSchema>

export const sneakLine = defineKind({
  in: 'sneakLines',
  prefix: 'sl',
  word: 'sneak line',
  schema: sneakLineSchema,
  refs: [{ path: 'factionIds.*', to: 'factions', onLost: 'drop' }],
  stands: true,
})
