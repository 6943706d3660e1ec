import { z } from 'zod'
import { field, id, name, seconds } from '../../../fields'
import { atGait, common, defineStep, fromTo, secondsWord } from '../step'

/** Goes to a thing that is marked, a lever, a well, a stall, and uses it for a while; one at a time. */
export const takeObject = defineStep({
  kind: 'use-object',
  word: 'Use an object',
  schema: z.strictObject({
    kind: z.literal('use-object'),
    ...common,
    markerId: field(id.nullable().default(null), { label: 'marker', none: 'none chosen' }),
    gait: name.nullable().default(null),
    /** How long it is used; drawn from between. */
    use: z
      .strictObject({
        minS: field(seconds, { label: 'takes at least', unit: 's', step: 0.1 }),
        maxS: field(seconds, { label: 'at most', unit: 's', step: 0.1 }),
      })
      .default({ minS: 3, maxS: 3 }),
    waitS: field(seconds.nullable().default(30), {
      label: 'waits while another uses it, at most',
      unit: 's',
      step: 1,
      none: 'without end',
    }),
  }),
  refs: [{ path: 'markerId', to: 'markers', onLost: 'clear' }],
  says({ markerId, gait, use: { minS, maxS }, waitS }, name) {
    const takes = fromTo({ minS, maxS })
    const waits = waitS === null ? '' : `, waiting at most ${secondsWord(waitS)} while another does`
    return `Use ${name(markerId, 'an object that is not chosen yet')}${atGait(gait)} for ${takes}${waits}.`
  },
  ends: () => true,
})
