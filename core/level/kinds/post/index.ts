import { z } from 'zod'
import { bearing, BEARING, DEGREES, field, id, kept, name, PLACE, point3 } from '../../fields'
import { defineKind } from '../kind'

export const postSchema = z.strictObject({
  name,
  at: field(point3, PLACE),
  facingRad: field(bearing.default(0), { ...BEARING, label: 'faces' }),
  /** How wide an arc is watched from it, its facing in the middle. */
  arcRad: field(
    z
      .number()
      .min(0)
      .max(2 * Math.PI)
      .default(2.094),
    { ...DEGREES, label: 'watches' },
  ),
  /** Those of more worth are held first. */
  worth: field(z.number().min(0).max(1000).default(1), { label: 'worth', step: 0.1, digits: 1 }),
  zoneId: field(id.nullable().default(null), { label: 'zone', none: 'none' }),
  ...kept,
})
export type Post = z.output<typeof postSchema>

export const post = defineKind({
  in: 'posts',
  prefix: 'ps',
  word: 'post',
  schema: postSchema,
  refs: [{ path: 'zoneId', to: 'zones', onLost: 'clear' }],
  stands: true,
})
