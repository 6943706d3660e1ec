import { z } from 'zod'
import { field, id, kept, length, METRES, name, positive } from '../../fields'
import { defineKind } from '../kind'

export const counterSchema = z.strictObject({
  name,
  laneId: id.nullable().default(null),
  /** How far along its lane; at the end of one that is shorter. */
  atM: field(length.max(100_000).default(0), { ...METRES, label: 'along the lane' }),
  /** Another counter to which the time of those who pass both is told. */
  toId: id.nullable().default(null),
  /** Figures over time are told for so long each. */
  everyS: field(positive.max(3600).default(60), { label: 'figures every', unit: 's', step: 1, digits: 0 }),
  ...kept,
})
export type Counter = z.output<typeof counterSchema>

/** A place on a lane where those who pass are counted. */
export const counter = defineKind({
  in: 'counters',
  prefix: 'ct',
  word: 'counter',
  schema: counterSchema,
  refs: [
    { path: 'laneId', to: 'routes', onLost: 'delete' },
    { path: 'toId', to: 'counters', onLost: 'clear' },
  ],
})
