import { z } from 'zod'
import { field, id, kept, name, ring } from '../../fields'
import { defineKind } from '../kind'

export const junctionSchema = z.strictObject({
  name,
  ring,
  laneIds: z.array(id).max(1000).default([]),
  control: field(z.enum(['none', 'give-way', 'stop', 'signals']).default('none'), {
    label: 'control',
    words: { 'give-way': 'give way' },
  }),
  ...kept,
})
export type Junction = z.output<typeof junctionSchema>

export const junction = defineKind({
  in: 'junctions',
  prefix: 'jn',
  word: 'junction',
  schema: junctionSchema,
  refs: [{ path: 'laneIds.*', to: 'routes', onLost: 'drop' }],
  stands: true,
})
