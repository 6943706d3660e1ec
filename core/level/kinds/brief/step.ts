import type { z } from 'zod'
import type { Ref } from '../kind'

/** A kind of step in a brief. */
export interface StepKind<K extends string = string, S extends z.ZodObject = z.ZodObject> {
  readonly kind: K
  readonly word: string
  /** Of all of a step, its `kind` too. */
  readonly schema: S
  /** What it refers to, from the step. */
  readonly refs?: readonly Ref[]
}

export const defineStep = <const K extends string, S extends z.ZodObject>(step: StepKind<K, S>): StepKind<K, S> => step
