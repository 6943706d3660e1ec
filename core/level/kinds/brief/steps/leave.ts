import { z } from 'zod'
import { defineStep } from '../step'

export const leave = defineStep({
  kind: 'leave',
  word: 'Leave',
  schema: z.strictObject({ kind: z.literal('leave') }),
  says: () => 'Leave the level.',
  ends: () => false,
})
