import { z } from 'zod'
import { common, defineStep } from '../step'

export const leave = defineStep({
  kind: 'leave',
  word: 'Leave',
  schema: z.strictObject({ kind: z.literal('leave'), ...common }),
  says: () => 'Leave the level.',
  ends: () => false,
})
