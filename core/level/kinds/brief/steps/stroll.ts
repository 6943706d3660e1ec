import { z } from 'zod'
import { field, name, seconds } from '../../../fields'
import { atGait, common, defineStep, forWords, fromTo, standsFor } from '../step'

export const stroll = defineStep({
  kind: 'stroll',
  word: 'Walk about on lanes',
  schema: z.strictObject({
    kind: z.literal('stroll'),
    ...common,
    /** Only lanes with this tag are gone to; ways may lead over any other. Empty: to all. */
    tag: field(z.string().max(120).default(''), { label: 'only to lanes tagged' }),
    gait: name.nullable().default(null),
    pause: standsFor(0, 4),
    forS: field(seconds.nullable().default(null), { label: 'for', unit: 's', step: 1, none: 'without end' }),
  }),
  needs: () => [],
  says: ({ tag, gait, pause, forS }) => {
    const where = tag.trim() === '' ? 'lanes for walking' : `lanes tagged “${tag.trim()}”`
    return `Walk about on ${where}${atGait(gait)}, standing ${fromTo(pause)} at each place${forWords(forS)}.`
  },
  ends: ({ forS }) => forS !== null,
})
