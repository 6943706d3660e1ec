import { z } from 'zod'
import { field, id, name } from '../../../fields'
import { atGait, common, defineStep } from '../step'

/** Goes to the nearer end of a passage and through it, whether or not that is the shortest way anywhere. */
export const takePassage = defineStep({
  kind: 'use-passage',
  word: 'Use a passage',
  schema: z.strictObject({
    kind: z.literal('use-passage'),
    ...common,
    passageId: field(id.nullable().default(null), { label: 'passage', none: 'none chosen' }),
    gait: name.nullable().default(null),
  }),
  refs: [{ path: 'passageId', to: 'passages', onLost: 'clear' }],
  says: ({ passageId, gait }, name) => `Use ${name(passageId, 'a passage that is not chosen yet')}${atGait(gait)}.`,
  ends: () => true,
})
