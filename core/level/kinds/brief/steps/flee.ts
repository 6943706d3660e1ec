import { z } from 'zod'
import { name } from '../../../fields'
import { atGait, common, defineStep } from '../step'
import { namedPlace, PLACE_REFS, placeNamed, placeNeeded, placeWords } from './go-to'

/** Gets away to a place; the standing sentence it belongs to does not begin anew while it does. */
export const flee = defineStep({
  kind: 'flee',
  word: 'Flee to a place',
  schema: z.strictObject({
    kind: z.literal('flee'),
    ...common,
    ...namedPlace,
    gait: name.nullable().default(null),
  }),
  refs: PLACE_REFS,
  needs: placeNeeded,
  says: (step, name) => `Flee to ${name(placeNamed(step).id, placeWords(step))}${atGait(step.gait)}.`,
  ends: () => true,
})
