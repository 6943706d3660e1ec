import { z } from 'zod'
import { field, id, name } from '../../../fields'
import { defineStep } from '../step'

export const goTo = defineStep({
  kind: 'go-to',
  word: 'Go to a place',
  schema: z.strictObject({
    kind: z.literal('go-to'),
    markerId: field(id.nullable(), { label: 'marker', none: 'none chosen' }),
    gait: name.nullable().default(null),
  }),
  refs: [{ path: 'markerId', to: 'markers', onLost: 'clear' }],
})
