import { z } from 'zod'
import { field, id, name } from '../../../fields'
import { defineStep } from '../step'

export const followRoute = defineStep({
  kind: 'follow-route',
  word: 'Follow a route',
  schema: z.strictObject({
    kind: z.literal('follow-route'),
    routeId: field(id.nullable(), { label: 'route', none: 'no route' }),
    gait: name.nullable().default(null),
  }),
  refs: [{ path: 'routeId', to: 'routes', onLost: 'clear' }],
})
