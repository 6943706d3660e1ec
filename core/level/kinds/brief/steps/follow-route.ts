import { z } from 'zod'
import { field, id, name, seconds } from '../../../fields'
import { atGait, common, defineStep, forWords, oneOf, oneOfWords } from '../step'

const FROM = { start: '', stop: ', from the nearest stop', line: ', from the nearest point of its line' } as const

export const followRoute = defineStep({
  kind: 'follow-route',
  word: 'Follow a route',
  schema: z.strictObject({
    kind: z.literal('follow-route'),
    ...common,
    ...oneOf('routeId'),
    routeId: field(id.nullable().default(null), { label: 'route', none: 'no route' }),
    gait: name.nullable().default(null),
    /** Where it is begun: at the first stop, at the nearest one, or at the nearest place of its line. */
    from: field(z.enum(['start', 'stop', 'line']).default('start'), {
      label: 'from',
      words: { start: 'its start', stop: 'the nearest stop', line: 'the nearest point' },
    }),
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
  refs: [
    { path: 'routeId', to: 'routes', onLost: 'clear' },
    { path: 'others.*.routeId', to: 'routes', onLost: 'clear' },
  ],
  says: (step, name) =>
    `Follow ${oneOfWords('routeId', step, name, 'a route that is not chosen yet')}${atGait(step.gait)}${FROM[step.from]}${
      step.rounds === null ? '' : step.rounds === 1 ? ', for one round' : `, for ${step.rounds} rounds`
    }${forWords(step.forS)}.`,
  // Whether a route leads on for ever is a matter of the route.
  ends: ({ rounds, forS }) => rounds !== null || forS !== null,
})
