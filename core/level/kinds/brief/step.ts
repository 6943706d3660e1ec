import type { z } from 'zod'
import type { Ref } from '../kind'

/** What a thing a step names is called; `otherwise` where none is chosen. */
export type Naming = (id: string | null, otherwise: string) => string

/** A kind of step in a brief. */
export interface StepKind<K extends string = string, S extends z.ZodObject = z.ZodObject> {
  readonly kind: K
  readonly word: string
  /** Of all of a step, its `kind` too; every other field has a default, so that a new step is made of its kind alone. */
  readonly schema: S
  /** What it refers to, from the step. */
  readonly refs?: readonly Ref[]
  /** The step as a sentence that can be read aloud. */
  says(step: z.output<S>, name: Naming): string
  /** Does it come to an end of itself? Where it does not, nothing after it comes about unless it fails. */
  ends(step: z.output<S>): boolean
}

export const defineStep = <const K extends string, S extends z.ZodObject>(step: StepKind<K, S>): StepKind<K, S> => step

/** How fast, as a part of a sentence. */
export const atGait = (gait: string | null): string => (gait === null ? '' : ` at a ${gait}`)
/** How long, as a part of a sentence. */
export const secondsWord = (s: number): string => `${+s.toFixed(1)} s`
