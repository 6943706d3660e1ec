import { z } from 'zod'
import { field, id, name } from '../../../fields'
import { atGait, common, defineStep } from '../step'

/** Goes to the nearest vehicle or boat of a spawner that stands free, and gets in: from then on it travels as that does. */
export const board = defineStep({
  kind: 'board',
  word: 'Board a vehicle or boat',
  schema: z.strictObject({
    kind: z.literal('board'),
    ...common,
    spawnerId: field(id.nullable().default(null), { label: 'one of', none: 'none chosen' }),
    gait: name.nullable().default(null),
  }),
  refs: [{ path: 'spawnerId', to: 'spawners', onLost: 'clear' }],
  says: ({ spawnerId, gait }, name) => `Board ${name(spawnerId, 'a vehicle that is not chosen yet')}${atGait(gait)}.`,
  ends: () => true,
})
