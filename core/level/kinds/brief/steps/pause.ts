import { z } from 'zod'
import { field, seconds } from '../../../fields'
import { common, defineStep, secondsWord } from '../step'

export const pause = defineStep({
  kind: 'pause',
  word: 'Pause',
  schema: z.strictObject({
    kind: z.literal('pause'),
    ...common,
    forS: field(seconds.default(5), { label: 'for', unit: 's', step: 0.1 }),
  }),
  says: ({ forS }) => `Pause for ${secondsWord(forS)}.`,
  ends: () => true,
})
