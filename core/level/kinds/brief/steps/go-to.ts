import { z } from 'zod'
import { field, id, name } from '../../../fields'
import { atGait, defineStep } from '../step'

export const goTo = defineStep({
  kind: 'go-to',
  word: 'Go to a place',
  schema: z.strictObject({
    kind: z.literal('go-to'),
    markerId: field(id.nullable().default(null), { label: 'marker', none: 'none chosen' }),
    gait: name.nullable().default(null),
  }),
  refs: [{ path: 'markerId', to: 'markers', onLost: 'clear' }],
  says: ({ markerId, gait }, name) => `Go to ${name(markerId, 'a place that is not chosen yet')}${atGait(gait)}.`,
  ends: () => true,
})
