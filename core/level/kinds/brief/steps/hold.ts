import { z } from 'zod'
import { field, id, name, seconds } from '../../../fields'
import { atGait, common, defineStep, forWords, secondsWord } from '../step'

/** Holds one of the posts of a zone, those of more worth first; who finds none free waits for its turn. */
export const hold = defineStep({
  kind: 'hold',
  word: 'Hold the posts of a zone',
  schema: z.strictObject({
    kind: z.literal('hold'),
    ...common,
    zoneId: field(id.nullable().default(null), { label: 'zone', none: 'that of its squad' }),
    gait: name.nullable().default(null),
    /** Somebody who waits takes over after so long. */
    turnS: field(seconds.nullable().default(60), { label: 'takes turns after', unit: 's', step: 1, none: 'never' }),
    forS: field(seconds.nullable().default(null), { label: 'for', unit: 's', step: 1, none: 'without end' }),
  }),
  refs: [{ path: 'zoneId', to: 'zones', onLost: 'clear' }],
  needs: () => [],
  says: ({ zoneId, gait, turnS, forS }, name) =>
    `Hold a post of ${name(zoneId, "its squad's zone")}${atGait(gait)}${
      turnS === null ? '' : `, taking turns after ${secondsWord(turnS)}`
    }${forWords(forS)}.`,
  ends: ({ forS }) => forS !== null,
})
