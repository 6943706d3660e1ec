import { z } from 'zod'
import { field, id } from '../../fields'
import type { Ref } from '../kind'
import type { Naming } from './step'

/** A kind of standing sentence: what it is that interrupts the steps of a brief. */
export interface WhenKind<K extends string = string, S extends z.ZodObject = z.ZodObject> {
  readonly kind: K
  readonly word: string
  readonly schema: S
  readonly refs?: readonly Ref[]
  /** The first half of its sentence, without a comma after it. */
  says(when: z.output<S>, name: Naming): string
}

export const defineWhen = <const K extends string, S extends z.ZodObject>(when: WhenKind<K, S>): WhenKind<K, S> => when

/** What comes once its steps are done. */
export const AFTER = {
  'take-up': 'goes on where it was',
  next: 'goes on with the next step',
  again: 'begins its brief again',
} as const

/** What every standing sentence has. */
export const standing = {
  id,
  after: field(z.enum(['take-up', 'next', 'again']).default('take-up'), { label: 'then', words: AFTER }),
  once: field(z.boolean().default(false), { label: 'only once' }),
}

/** About whom a sentence is. */
export const WHOM = {
  hostile: 'someone hostile',
  'stand-in': 'the player',
  anyone: 'anyone of another faction',
} as const
export const whom = field(z.enum(['hostile', 'stand-in', 'anyone']).default('hostile'), { label: 'whom', words: WHOM })
