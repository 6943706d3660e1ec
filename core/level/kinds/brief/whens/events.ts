import { z } from 'zod'
import { field, id, seconds } from '../../../fields'
import { secondsWord } from '../step'
import { defineWhen, standing, WHOM, whom } from '../when'

export const blocked = defineWhen({
  kind: 'blocked',
  word: 'It gets no farther',
  schema: z.strictObject({
    kind: z.literal('blocked'),
    ...standing,
    forS: field(seconds.default(10), { label: 'for', unit: 's', step: 1 }),
  }),
  says: ({ forS }) => `If you get no farther for ${secondsWord(forS)}`,
})

export const someoneLeft = defineWhen({
  kind: 'left',
  word: 'Somebody has left',
  schema: z.strictObject({
    kind: z.literal('left'),
    ...standing,
    spawnerId: field(id.nullable().default(null), { label: 'someone of', none: 'anybody' }),
  }),
  refs: [{ path: 'spawnerId', to: 'spawners', onLost: 'clear' }],
  says: ({ spawnerId }, name) => `When ${spawnerId ? `someone of ${name(spawnerId, 'it')}` : 'somebody'} has left`,
})

export const zoneEntered = defineWhen({
  kind: 'zone-entered',
  word: 'Someone enters a zone',
  schema: z.strictObject({
    kind: z.literal('zone-entered'),
    ...standing,
    zoneId: field(id.nullable().default(null), { label: 'zone', none: 'none chosen' }),
    whom,
  }),
  refs: [{ path: 'zoneId', to: 'zones', onLost: 'clear' }],
  says: ({ zoneId, whom }, name) => `When ${WHOM[whom]} enters ${name(zoneId, 'a zone that is not chosen yet')}`,
})

export const signalGiven = defineWhen({
  kind: 'signal',
  word: 'A signal is given',
  schema: z.strictObject({
    kind: z.literal('signal'),
    ...standing,
    signalId: field(id.nullable().default(null), { label: 'signal', none: 'none chosen' }),
  }),
  refs: [{ path: 'signalId', to: 'signals', onLost: 'clear' }],
  says: ({ signalId }, name) => `When the signal ${name(signalId, 'that is not chosen yet')} is given`,
})

export const timePassed = defineWhen({
  kind: 'time',
  word: 'So much time has passed',
  schema: z.strictObject({
    kind: z.literal('time'),
    ...standing,
    afterS: field(seconds.default(60), { label: 'after', unit: 's', step: 1 }),
  }),
  says: ({ afterS }) => `When ${secondsWord(afterS)} have passed since you came`,
})
