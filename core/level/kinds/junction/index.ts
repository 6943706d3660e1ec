import { z } from 'zod'
import { field, flag, id, kept, METRES, name, positive, ring, seconds } from '../../fields'
import { defineKind, type Ref } from '../kind'

export const CONTROLS = ['none', 'give-way', 'stop', 'all-way', 'side', 'signals'] as const

const S = { unit: 's', step: 0.1 } as const
const ids = z.array(id).max(200).default([])

/** A stage of a signal plan: who has green together, for how long, and what is between it and the next. */
export const phaseSchema = z.strictObject({
  name: name.default(''),
  greenS: field(seconds.default(20), { ...S, label: 'green' }),
  amberS: field(seconds.default(3), { ...S, label: 'amber' }),
  allRedS: field(seconds.default(2), { ...S, label: 'all red' }),
  /** Those with green: links, and lanes that lead through. */
  linkIds: ids,
  laneIds: ids,
})
export type Phase = z.output<typeof phaseSchema>

/** One that gives way to another, each a link or a lane that leads through; what was deleted of them is null. */
export const yieldSchema = z.strictObject({
  linkId: id.nullable().default(null),
  laneId: id.nullable().default(null),
  toLinkId: id.nullable().default(null),
  toLaneId: id.nullable().default(null),
  /** Does it stand still first, whether anybody comes or not? */
  stops: flag(false),
  /** How far up the other way it is looked whether anybody comes; null for as far as is needed. */
  watchM: field(positive.max(2000).nullable().default(null), { ...METRES, label: 'watches', none: 'as far as needed' }),
})
export type Yield = z.output<typeof yieldSchema>

export const junctionSchema = z.strictObject({
  name,
  ring,
  laneIds: z.array(id).max(1000).default([]),
  control: field(z.enum(CONTROLS).default('none'), {
    label: 'control',
    words: {
      none: 'nothing',
      'give-way': 'give way',
      'all-way': 'all stop, first come first',
      side: 'priority from one side',
    },
  }),
  yields: z.array(yieldSchema).max(2000).default([]),
  /** The stages of its signals in order; the cycle is all of them together. */
  phases: z.array(phaseSchema).max(20).default([]),
  /** When the first stage begins, in a clock all junctions share. */
  offsetS: field(seconds.default(0), {
    ...S,
    label: 'begins at',
    when: (j: { control: string }) => j.control === 'signals',
  }),
  /** Nobody enters who could not leave: it is kept clear. */
  keepClear: field(flag(true), { label: 'kept clear' }),
  /** How wide those who drive here are taken to be; null for the widest who may. */
  bodyM: field(positive.max(20).nullable().default(null), {
    ...METRES,
    label: 'for bodies as wide as',
    none: 'the widest',
  }),
  ...kept,
})
export type Junction = z.output<typeof junctionSchema>

const named = (path: string, to: string): Ref => ({ path, to, onLost: 'clear' })

export const junction = defineKind({
  in: 'junctions',
  prefix: 'jn',
  word: 'junction',
  schema: junctionSchema,
  refs: [
    { path: 'laneIds.*', to: 'routes', onLost: 'drop' },
    named('yields.*.linkId', 'links'),
    named('yields.*.laneId', 'routes'),
    named('yields.*.toLinkId', 'links'),
    named('yields.*.toLaneId', 'routes'),
    { path: 'phases.*.linkIds.*', to: 'links', onLost: 'drop' },
    { path: 'phases.*.laneIds.*', to: 'routes', onLost: 'drop' },
  ],
  stands: true,
})
