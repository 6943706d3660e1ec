import { z } from 'zod'
import { field, id, name, seconds } from '../../../fields'
import { atGait, defineStep, secondsWord } from '../step'

export const wander = defineStep({
  kind: 'wander',
  word: 'Wander in a zone',
  schema: z.strictObject({
    kind: z.literal('wander'),
    zoneId: field(id.nullable().default(null), { label: 'zone', none: 'none chosen' }),
    gait: name.nullable().default(null),
    /** How long it stands at each place it goes to; drawn from between. */
    pause: z
      .strictObject({
        minS: field(seconds, { label: 'stands at least', unit: 's', step: 0.1 }),
        maxS: field(seconds, { label: 'at most', unit: 's', step: 0.1 }),
      })
      .default({ minS: 2, maxS: 6 }),
    /** A place it has not come to after so long is given up for another. */
    limitS: field(seconds.default(60), { label: 'another place after', unit: 's', step: 1 }),
    forS: field(seconds.nullable().default(null), { label: 'for', unit: 's', step: 1, none: 'without end' }),
  }),
  refs: [{ path: 'zoneId', to: 'zones', onLost: 'clear' }],
  says: ({ zoneId, gait, pause: { minS, maxS }, forS }, name) =>
    `Wander in ${name(zoneId, 'a zone that is not chosen yet')}${atGait(gait)}, standing ${
      minS < maxS ? `${+minS.toFixed(1)} to ${secondsWord(maxS)}` : secondsWord(minS)
    } at each place${forS === null ? '' : `, for ${secondsWord(forS)}`}.`,
  ends: ({ forS }) => forS !== null,
})
