import { z } from 'zod'
import { field, name, seconds } from '../../../fields'
import { atGait, common, defineStep, forWords, secondsWord } from '../step'

export const stroll = defineStep({
  kind: 'stroll',
  word: 'Walk about on lanes',
  schema: z.strictObject({
    kind: z.literal('stroll'),
    ...common,
    /** Only lanes with this tag are gone to; ways may lead over any other. Empty: to all. */
    tag: field(z.string().max(120).default(''), { label: 'only to lanes tagged' }),
    gait: name.nullable().default(null),
    /** How long it stands at each place it has gone to; drawn from between. */
    pause: z
      .strictObject({
        minS: field(seconds, { label: 'stands at least', unit: 's', step: 0.1 }),
        maxS: field(seconds, { label: 'at most', unit: 's', step: 0.1 }),
      })
      .default({ minS: 0, maxS: 4 }),
    forS: field(seconds.nullable().default(null), { label: 'for', unit: 's', step: 1, none: 'without end' }),
  }),
  needs: () => [],
  says: ({ tag, gait, pause: { minS, maxS }, forS }) => {
    const stands = minS < maxS ? `${+minS.toFixed(1)} to ${secondsWord(maxS)}` : secondsWord(minS)
    const where = tag.trim() === '' ? 'lanes for walking' : `lanes tagged “${tag.trim()}”`
    return `Walk about on ${where}${atGait(gait)}, standing ${stands} at each place${forWords(forS)}.`
  },
  ends: ({ forS }) => forS !== null,
})
