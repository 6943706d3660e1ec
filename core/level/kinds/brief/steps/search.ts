import { z } from 'zod'
import { field, length, METRES, name, seconds } from '../../../fields'
import { atGait, common, defineStep, metresWord, secondsWord } from '../step'

/** Goes to where somebody was perceived last, and looks round there. */
export const search = defineStep({
  kind: 'search',
  word: 'Search the last known place',
  schema: z.strictObject({
    kind: z.literal('search'),
    ...common,
    gait: name.nullable().default(null),
    radiusM: field(length.default(6), { ...METRES, label: 'within' }),
    forS: field(seconds.default(20), { label: 'for', unit: 's', step: 1 }),
  }),
  says: ({ gait, radiusM, forS }) =>
    `Search within ${metresWord(radiusM)} of the last known place${atGait(gait)}, for ${secondsWord(forS)}.`,
  ends: () => true,
})
