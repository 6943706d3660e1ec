import { z } from 'zod'
import { field, length, METRES, name, seconds } from '../../../fields'
import { atGait, common, defineStep, forWords, metresWord } from '../step'
import { namedPlace, PLACE_REFS, placeNamed, placeNeeded, placeWords } from './go-to'

/** Stands at a place, goes for hostile ones it perceives within a distance of it, and comes back. */
export const guard = defineStep({
  kind: 'guard',
  word: 'Guard a place',
  schema: z.strictObject({
    kind: z.literal('guard'),
    ...common,
    ...namedPlace,
    gait: name.nullable().default(null),
    radiusM: field(length.default(12), { ...METRES, label: 'goes for those within' }),
    forS: field(seconds.nullable().default(null), { label: 'for', unit: 's', step: 1, none: 'without end' }),
  }),
  refs: PLACE_REFS,
  needs: placeNeeded,
  says: (step, name) =>
    `Guard ${name(placeNamed(step).id, placeWords(step))}: go for anyone hostile within ${metresWord(step.radiusM)} of it${atGait(step.gait)}, and come back${forWords(step.forS)}.`,
  ends: ({ forS }) => forS !== null,
})
