import { z } from 'zod'
import { field, flag, kept, METRES, name, point3, restriction, seconds, text } from '../../fields'
import { defineKind, RESTRICTS } from '../kind'

export const PASSAGE_KINDS = ['jump', 'drop', 'ladder', 'door', 'lift', 'portal', 'ford'] as const
export const PASSAGE_STATES = ['open', 'closed', 'locked'] as const

export const passageSchema = z.strictObject({
  name,
  kind: field(z.enum(PASSAGE_KINDS), { label: 'kind' }),
  takesS: field(seconds.default(1), { label: 'takes', unit: 's', step: 0.1 }),
  from: point3,
  to: point3,
  /** How far an end may be from the floor it catches, metres. */
  catchM: field(z.number().min(0.05).max(10).default(0.6), { ...METRES, label: 'catches within' }),
  /** A closed one opens to whoever comes; a locked one to nobody until what `opensWhen` says has happened. */
  state: field(z.enum(PASSAGE_STATES).default('open'), {
    label: 'state',
    words: { closed: 'closed, opens to whoever comes', locked: 'locked until something happens' },
  }),
  opensWhen: field(text.default(''), { label: 'until', when: (p: { state: string }) => p.state === 'locked' }),
  twoWay: field(flag(true), { label: 'leads both ways' }),
  ...restriction,
  ...kept,
})
export type Passage = z.output<typeof passageSchema>

export const passage = defineKind({
  in: 'passages',
  prefix: 'pg',
  word: 'passage',
  schema: passageSchema,
  refs: [RESTRICTS],
  stands: true,
})
