import { z } from 'zod'
import { field, id, length, METRES, seconds } from '../../fields'

export const HALT_PLACES = ['on', 'left', 'right'] as const
/** Most halts a lane has. */
export const MOST_HALTS = 50

/**
 * A stretch of a lane where those who drive stand for a while: on the lane itself, as a carrier at its platform, or in
 * parking places beside it. Metres along the lane.
 */
export const haltSchema = z.strictObject({
  where: field(z.enum(HALT_PLACES).default('on'), {
    label: 'they stand',
    words: { on: 'on the lane', left: 'parked left', right: 'parked right' },
  }),
  fromM: field(length, { ...METRES, label: 'from' }),
  toM: field(length, { ...METRES, label: 'to' }),
  /** Each draws how long it stands from between these. */
  minS: field(seconds.default(20), { label: 'stand at least', unit: 's', step: 1 }),
  maxS: field(seconds.default(20), { label: 'at most', unit: 's', step: 1 }),
  /** Of those who come by and may stand there, the part that does, 0 to 1. */
  share: field(z.number().min(0).max(1).default(1), {
    label: 'of those who come by',
    unit: '%',
    times: 100,
    step: 1,
    digits: 0,
  }),
  /** How long one parking place is. */
  placeM: field(z.number().min(1).max(100).default(7), {
    ...METRES,
    label: 'each place is',
    when: (h: { where: string }) => h.where !== 'on',
  }),
  /** Who stands there; nobody named means everyone. */
  profileIds: z.array(id).max(200).default([]),
})
export type Halt = z.output<typeof haltSchema>
