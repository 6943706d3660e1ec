import { z } from 'zod'
import { field } from '../../../fields'
import { common, defineStep } from '../step'

export const again = defineStep({
  kind: 'again',
  word: 'Begin again',
  schema: z.strictObject({
    kind: z.literal('again'),
    ...common,
    times: field(z.number().int().min(1).max(1000).nullable().default(null), {
      label: 'times',
      none: 'without end',
      step: 0.05,
      digits: 0,
    }),
  }),
  says: ({ times }) =>
    times === null ? 'Then begin again.' : `Then begin again, ${times === 1 ? 'once' : `${times} times`}.`,
  ends: ({ times }) => times !== null,
})
