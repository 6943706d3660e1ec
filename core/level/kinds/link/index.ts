import { z } from 'zod'
import { field, flag, id, METRES, tags } from '../../fields'
import { LIMITS } from '../../limits'
import { defineKind } from '../kind'

export const linkSchema = z.strictObject({
  fromId: id,
  toId: id,
  twoWay: field(flag(true), { label: 'leads both ways' }),
  /** How much dearer than its length it is to whoever looks for the shortest way. */
  costFactor: field(z.number().gt(0).max(1000).default(1), { label: 'counts as long', unit: '×', step: 0.05 }),
  /** Of those who come to a fork, the part that takes this link, beside the parts of the others. */
  share: field(z.number().min(0).max(1000).default(1), { label: 'share of the fork', step: 0.05 }),
  /** From one lane into another it turns no more tightly than this, as on a turning circle; null as its ends lie. */
  turnM: field(z.number().min(1).max(200).nullable().default(null), {
    ...METRES,
    label: 'turns with a radius of',
    none: 'as its ends lie',
    when: (l: { twoWay: boolean }) => !l.twoWay,
  }),
  tags,
})
export type Link = z.output<typeof linkSchema>

export const link = defineKind({
  in: 'links',
  prefix: 'ln',
  word: 'link',
  schema: linkSchema,
  refs: [
    { path: 'fromId', to: 'waypoints', onLost: 'delete', stands: true },
    { path: 'toId', to: 'waypoints', onLost: 'delete', stands: true },
  ],
  most: LIMITS.waypoints,
})
