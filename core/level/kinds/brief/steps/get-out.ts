import { z } from 'zod'
import { common, defineStep } from '../step'

export const getOut = defineStep({
  kind: 'get-out',
  word: 'Get out',
  schema: z.strictObject({ kind: z.literal('get-out'), ...common }),
  says: () => 'Get out.',
  ends: () => true,
})
