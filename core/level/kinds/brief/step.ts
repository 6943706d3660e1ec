import { z } from 'zod'
import { field, id, seconds } from '../../fields'
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
  /** What it cannot be done without, by the paths of its references; without, all that are not in lists. */
  needs?(step: z.output<S>): readonly string[]
  /** The step as a sentence that can be read aloud. */
  says(step: z.output<S>, name: Naming): string
  /** Does it come to an end of itself? Where it does not, nothing after it comes about unless it fails. */
  ends(step: z.output<S>): boolean
}

export const defineStep = <const K extends string, S extends z.ZodObject>(step: StepKind<K, S>): StepKind<K, S> => step

const FAILED = { next: 'the next', again: 'tries again', 'give-up': 'gives up' } as const

/** What every step has: the standing sentence it belongs to, and what comes when it cannot be done. */
export const common = {
  whenId: id.nullable().default(null),
  /** The blanks that say which route or zone it is about, and at which gait: filled at the spawner. */
  blankId: id.nullable().default(null),
  gaitBlankId: id.nullable().default(null),
  failed: field(z.enum(['next', 'again', 'give-up']).default('next'), { label: 'if it fails', words: FAILED }),
}

/** One of several things by weight: those beside the first, how often it is the first, and when it is drawn. */
export const oneOf = <K extends string>(key: K) => ({
  others: z
    .array(z.strictObject({ [key]: id.nullable(), weight: z.number().min(0).max(1000).default(1) } as Other<K>))
    .max(50)
    .default([]),
  weight: z.number().min(0).max(1000).default(1),
  draws: field(z.enum(['agent', 'time']).default('agent'), {
    label: 'drawn',
    words: { agent: 'once for each agent', time: 'anew each time' },
    when: ({ others }: { others: readonly unknown[] }) => others.length > 0,
  }),
  failed: field(z.enum(['next', 'again', 'another', 'give-up']).default('next'), {
    label: 'if it fails',
    words: { ...FAILED, another: 'another' },
  }),
})
type Other<K extends string> = { [P in K]: z.ZodNullable<typeof id> } & { weight: z.ZodDefault<z.ZodNumber> }

/** One of several as a part of a sentence: “one of North round 2, South round 1”. */
export function oneOfWords<K extends string>(
  key: K,
  step: Readonly<Record<K, string | null>> & {
    readonly weight: number
    readonly others: readonly ({ readonly weight: number } & Readonly<Record<K, string | null>>)[]
  },
  name: Naming,
  otherwise: string,
): string {
  const first = name(step[key], otherwise)
  if (step.others.length === 0) return first
  const all = [step, ...step.others].map((o) => `${name(o[key], otherwise)} ${+o.weight.toFixed(2)}`)
  return `one of ${all.join(', ')}`
}

/** How long it stands at each place it goes to; drawn from between. */
export const standsFor = (minS: number, maxS: number) =>
  z
    .strictObject({
      minS: field(seconds, { label: 'stands at least', unit: 's', step: 0.1 }),
      maxS: field(seconds, { label: 'at most', unit: 's', step: 0.1 }),
    })
    .default({ minS, maxS })
/** How long that is, from the least to the most. */
export const fromTo = ({ minS, maxS }: { readonly minS: number; readonly maxS: number }): string =>
  minS < maxS ? `${+minS.toFixed(1)} to ${secondsWord(maxS)}` : secondsWord(minS)

/** How fast, as a part of a sentence. */
export const atGait = (gait: string | null): string => (gait === null ? '' : ` at a ${gait}`)
/** How long, as a part of a sentence. */
export const secondsWord = (s: number): string => `${+s.toFixed(1)} s`
export const metresWord = (m: number): string => `${+m.toFixed(1)} m`
/** For how long, where it has an end. */
export const forWords = (s: number | null): string => (s === null ? '' : `, for ${secondsWord(s)}`)
