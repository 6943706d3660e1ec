import { z } from 'zod'
import { field, id, seconds } from '../../../fields'
import { common, defineStep, secondsWord } from '../step'

const signalId = field(id.nullable().default(null), { label: 'signal', none: 'none chosen' })
const refs = [{ path: 'signalId', to: 'signals', onLost: 'clear' }] as const

export const giveSignal = defineStep({
  kind: 'give-signal',
  word: 'Give a signal',
  schema: z.strictObject({ kind: z.literal('give-signal'), ...common, signalId }),
  refs,
  says: ({ signalId }, name) => `Give the signal ${name(signalId, 'that is not chosen yet')}.`,
  ends: () => true,
})

/** Waits until somebody gives a signal; one that was given before counts for nothing. */
export const waitSignal = defineStep({
  kind: 'wait-signal',
  word: 'Wait for a signal',
  schema: z.strictObject({
    kind: z.literal('wait-signal'),
    ...common,
    signalId,
    limitS: field(seconds.nullable().default(60), { label: 'at most for', unit: 's', step: 1, none: 'without end' }),
  }),
  refs,
  says: ({ signalId, limitS }, name) =>
    `Wait for the signal ${name(signalId, 'that is not chosen yet')}${
      limitS === null ? '' : `, for ${secondsWord(limitS)} at most`
    }.`,
  ends: () => true,
})
