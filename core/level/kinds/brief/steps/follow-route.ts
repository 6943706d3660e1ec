import { z } from 'zod'
import { field, id, name, seconds } from '../../../fields'
import { atGait, defineStep, secondsWord } from '../step'

export const followRoute = defineStep({
  kind: 'follow-route',
  word: 'Follow a route',
  schema: z.strictObject({
    kind: z.literal('follow-route'),
    routeId: field(id.nullable().default(null), { label: 'route', none: 'no route' }),
    gait: name.nullable().default(null),
    /** So many times round, or there and back; a route that leads one way is followed once. */
    rounds: field(z.number().int().min(1).max(1000).nullable().default(null), {
      label: 'rounds',
      none: 'without end',
      step: 0.05,
      digits: 0,
    }),
    /** It ends at the stop that is reached after so long. */
    forS: field(seconds.nullable().default(null), { label: 'for', unit: 's', step: 1, none: 'without end' }),
  }),
  refs: [{ path: 'routeId', to: 'routes', onLost: 'clear' }],
  says: ({ routeId, gait, rounds, forS }, name) =>
    `Follow ${name(routeId, 'a route that is not chosen yet')}${atGait(gait)}${
      rounds === null ? '' : rounds === 1 ? ', for one round' : `, for ${rounds} rounds`
    }${forS === null ? '' : `, for ${secondsWord(forS)}`}.`,
  // Whether a route leads on for ever is a matter of the route.
  ends: ({ rounds, forS }) => rounds !== null || forS !== null,
})
