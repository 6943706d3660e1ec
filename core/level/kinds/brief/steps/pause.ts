import { z } from 'zod'
import { field, seconds } from '../../../fields'
import { defineStep } from '../step'

export const pause = defineStep({
  kind: 'pause',
  word: 'Pause',
  schema: z.strictObject({ kind: z.literal('pause'), forS: field(seconds, { label: 'for', unit: 's', step: 0.1 }) }),
})
