import { z } from 'zod'
import { field, length, METRES } from '../../../fields'
import { metresWord } from '../step'
import { defineWhen, standing, WHOM, whom } from '../when'

const withinM = field(length.nullable().default(null), { ...METRES, label: 'within', none: 'as far as it can' })
const within = (m: number | null) => (m === null ? '' : ` within ${metresWord(m)}`)

export const sees = defineWhen({
  kind: 'sees',
  word: 'It sees someone',
  schema: z.strictObject({ kind: z.literal('sees'), ...standing, whom, withinM }),
  says: (when) => `If you see ${WHOM[when.whom]}${within(when.withinM)}`,
})

export const hears = defineWhen({
  kind: 'hears',
  word: 'It hears someone',
  schema: z.strictObject({ kind: z.literal('hears'), ...standing, whom, withinM }),
  says: (when) => `If you hear ${WHOM[when.whom]}${within(when.withinM)}`,
})

export const touched = defineWhen({
  kind: 'touched',
  word: 'Someone touches it',
  schema: z.strictObject({ kind: z.literal('touched'), ...standing, whom }),
  says: (when) => `If ${WHOM[when.whom]} touches you`,
})
