import { z } from 'zod'
import { id, text } from '../../fields'
import { defineKind } from '../kind'

/** A finding someone has looked at and accepts. */
export const waiverSchema = z.strictObject({
  check: z.string().max(100),
  subjects: z.array(id).max(50),
  reason: text.min(1),
})
export type Waiver = z.output<typeof waiverSchema>

export const waiver = defineKind({ in: 'waivers', prefix: 'wv', word: 'waiver', schema: waiverSchema })
