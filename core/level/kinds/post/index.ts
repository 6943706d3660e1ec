import { z } from 'zod'
import { bearing, DEGREES, field, id, kept, name, PLACE, point3 } from '../../fields'
import { defineKind } from '../kind'

export const postSchema = z.strictObject({
  name,
  at: field(point3, PLACE),
  facingRad: field(bearing.default(0), { ...DEGREES, label: 'faces' }),
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
