import { z } from 'zod'
import { field, id, length, METRES, name, seconds } from '../../../fields'
import { atGait, common, defineStep, forWords, metresWord } from '../step'

/** Keeps at a distance from somebody: nearer than the one it goes away, farther than the other it comes up, between it stands. */
export const shadow = defineStep({
  kind: 'shadow',
  word: 'Keep at a distance from someone',
  schema: z.strictObject({
    kind: z.literal('shadow'),
    ...common,
    /** Somebody this spawner sends, the nearest; without one whoever the sentence is about. */
    spawnerId: field(id.nullable().default(null), { label: 'someone of', none: 'whoever was perceived' }),
    gait: name.nullable().default(null),
    nearM: field(length.default(3), { ...METRES, label: 'no nearer than' }),
    farM: field(length.default(6), { ...METRES, label: 'no farther than' }),
    forS: field(seconds.nullable().default(null), { label: 'for', unit: 's', step: 1, none: 'without end' }),
  }),
  refs: [{ path: 'spawnerId', to: 'spawners', onLost: 'clear' }],
  needs: ({ whenId }) => (whenId === null ? ['spawnerId'] : []),
  says: ({ spawnerId, gait, nearM, farM, forS }, name) =>
    `Keep ${+nearM.toFixed(1)} to ${metresWord(farM)} from ${name(spawnerId, 'them')}${atGait(gait)}${forWords(forS)}.`,
  ends: ({ forS }) => forS !== null,
})
