import { z } from 'zod'
import { angle, bearing, BEARING, field, flag, id, METRES, name, positive, seconds, tags, text } from '../../fields'

export const stopSchema = z.strictObject({
  waypointId: id,
  /** A fixed pause has equal ends; otherwise each visit draws one from between. */
  pause: z
    .strictObject({
      minS: field(seconds, { label: 'pauses at least', unit: 's', step: 0.1 }),
      maxS: field(seconds, { label: 'at most', unit: 's', step: 0.1 }),
    })
    .default({ minS: 0, maxS: 0 }),
  facingRad: field(bearing.nullable().default(null), { ...BEARING, label: 'faces', none: 'none' }),
  /** Share of the visits that pause at all, 0 to 1. */
  pauseShare: field(z.number().min(0).max(1).default(1), {
    label: 'of the visits pause',
    unit: '%',
    times: 100,
    step: 1,
    digits: 0,
  }),
  arrivalRadiusM: field(positive.nullable().default(null), { ...METRES, label: 'arrives within', none: '0.3' }),
  /** Directions between which somebody who pauses here looks around. */
  look: z.strictObject({ fromRad: angle, toRad: angle }).nullable().default(null),
  gait: name.nullable().default(null),
  /** A smooth route keeps its corner here. */
  sharp: field(flag(false), { label: 'a corner that stays sharp' }),
  /** What the game is to do here, and a note for those who write the game. */
  action: field(text.default(''), { label: 'action, for the game' }),
  note: field(text.default(''), { label: 'note to it' }),
  tags,
})
export type Stop = z.output<typeof stopSchema>
