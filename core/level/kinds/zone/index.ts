import { z } from 'zod'
import { field, height, id, kept, looseRing, METRES, name } from '../../fields'
import { LIMITS } from '../../limits'
import { ruled } from '../../rules'
import { defineKind } from '../kind'

export const ZONE_PURPOSES = ['wander', 'guard', 'hold', 'start', 'contest', 'keep-out'] as const

const is = (shape: string) => (zone: { shape: string }) => zone.shape === shape

const zoneParts = z.strictObject({
  name,
  purpose: field(z.enum(ZONE_PURPOSES).default('wander'), { label: 'purpose', words: { 'keep-out': 'keep out' } }),
  shape: z.enum(['polygon', 'circle', 'band']).default('polygon'),
  /** The corners of a polygon; of a circle its middle and a place on its rim; a band has none. */
  ring: looseRing.default([]),
  /** The route a band lies along, and how wide it is. */
  routeId: field(id.nullable().default(null), { label: 'along', none: 'no route', when: is('band') }),
  widthM: field(z.number().min(0.1).max(LIMITS.longestSideM).default(6), {
    ...METRES,
    label: 'width',
    when: is('band'),
  }),
  /** Of floors over one another those between two heights are meant. */
  fromM: field(height.nullable().default(null), { ...METRES, label: 'floors from', none: 'lowest' }),
  toM: field(height.nullable().default(null), { ...METRES, label: 'floors up to', none: 'highest' }),
  /** Whom a zone of starting is for, or one to keep out of keeps out: nobody named means everyone. */
  factionIds: z.array(id).max(200).default([]),
  ...kept,
})

export const zoneSchema = ruled(zoneParts, ({ shape, ring }) => {
  if (shape === 'polygon') return ring.length >= 3 ? undefined : 'ring needs at least three corners'
  if (shape === 'circle') return ring.length === 2 ? undefined : 'ring of a circle is its middle and a place on its rim'
  return ring.length === 0 ? undefined : 'a band has no ring: it lies along its route'
})
export type Zone = z.output<typeof zoneSchema>

export const zone = defineKind({
  in: 'zones',
  prefix: 'zn',
  word: 'zone',
  schema: zoneSchema,
  refs: [
    { path: 'routeId', to: 'routes', onLost: 'clear' },
    { path: 'factionIds.*', to: 'factions', onLost: 'drop' },
  ],
  stands: true,
})

export { areaOf, type Area } from './area'
