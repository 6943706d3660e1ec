import { z } from 'zod'
import { field, id, name, seconds } from '../../../fields'
import { atGait, common, defineStep, forWords, fromTo, oneOf, oneOfWords, standsFor } from '../step'

export const wander = defineStep({
  kind: 'wander',
  word: 'Wander in a zone',
  schema: z.strictObject({
    kind: z.literal('wander'),
    ...common,
    ...oneOf('zoneId'),
    zoneId: field(id.nullable().default(null), { label: 'zone', none: 'that of its squad' }),
    gait: name.nullable().default(null),
    pause: standsFor(2, 6),
    /** A place it has not come to after so long is given up for another. */
    limitS: field(seconds.default(60), { label: 'another place after', unit: 's', step: 1 }),
    /** Of several places drawn the one nearest to somebody of this spawner is taken. */
    nearId: field(id.nullable().default(null), { label: 'nearer to someone of', none: 'nobody' }),
    forS: field(seconds.nullable().default(null), { label: 'for', unit: 's', step: 1, none: 'without end' }),
  }),
  refs: [
    { path: 'zoneId', to: 'zones', onLost: 'clear' },
    { path: 'others.*.zoneId', to: 'zones', onLost: 'clear' },
    { path: 'nearId', to: 'spawners', onLost: 'clear' },
  ],
  needs: () => [],
  says: (step, name) => {
    const where = oneOfWords('zoneId', step, name, "its squad's zone")
    const near = step.nearId === null ? '' : `, nearer to someone of ${name(step.nearId, 'a spawner')}`
    return `Wander in ${where}${atGait(step.gait)}${near}, standing ${fromTo(step.pause)} at each place${forWords(step.forS)}.`
  },
  ends: ({ forS }) => forS !== null,
})
