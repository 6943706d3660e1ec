import { z } from 'zod'
import { field, flag, id, tags } from '../../fields'
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
