import { z } from 'zod'
import { field, name, seconds } from '../../../fields'
import { atGait, common, defineStep, secondsWord } from '../step'

/** Goes after whoever was perceived, to where they were seen last, until they have been out of sight for long. */
export const chase = defineStep({
  kind: 'chase',
  word: 'Chase them',
  schema: z.strictObject({
    kind: z.literal('chase'),
    ...common,
    gait: name.nullable().default(null),
    loseS: field(seconds.default(6), { label: 'until out of sight for', unit: 's', step: 0.5 }),
    forS: field(seconds.nullable().default(null), { label: 'at most for', unit: 's', step: 1, none: 'without end' }),
  }),
  says: ({ gait, loseS, forS }) =>
    `Chase them${atGait(gait)} until out of sight for ${secondsWord(loseS)}${
      forS === null ? '' : `, for ${secondsWord(forS)} at most`
    }.`,
  ends: () => true,
})
