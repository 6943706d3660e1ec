import { z } from 'zod'
import { id, kept, name } from '../../fields'
import { defineKind, type Ref } from '../kind'
import type { Naming, StepKind } from './step'
import { STEP_KINDS } from './steps/list'
import { AFTER, type WhenKind } from './when'
import { WHEN_KINDS } from './whens/list'

type Schemas<T extends readonly { schema: z.ZodObject }[]> = { -readonly [K in keyof T]: T[K]['schema'] }

export const briefStepSchema = z.discriminatedUnion(
  'kind',
  STEP_KINDS.map((s) => s.schema) as unknown as Schemas<typeof STEP_KINDS>,
)
export type BriefStep = z.output<typeof briefStepSchema>

export const briefWhenSchema = z.discriminatedUnion(
  'kind',
  WHEN_KINDS.map((w) => w.schema) as unknown as Schemas<typeof WHEN_KINDS>,
)
export type BriefWhen = z.output<typeof briefWhenSchema>

export const briefSchema = z.strictObject({
  name,
  /** Those in order, and those of each standing sentence by its id. */
  steps: z.record(id, briefStepSchema),
  order: z.array(id).max(1000),
  /** What is filled in at each spawner, so that one brief serves many: a route, a zone or a gait, by a name. */
  blanks: z
    .array(z.strictObject({ id, name, kind: z.enum(['route', 'zone', 'gait']) }))
    .max(20)
    .default([]),
  /** Standing sentences; one further up goes before those below it. */
  whens: z.array(briefWhenSchema).max(30).default([]),
  ...kept,
})
export type Brief = z.output<typeof briefSchema>

/** The steps of a brief that follow each other, or those of a standing sentence of it, in their order. */
export function stepsOf(brief: Pick<Brief, 'steps' | 'order'>, whenId: string | null = null): string[] {
  return brief.order.filter((s) => brief.steps[s].whenId === whenId)
}

/** What a spawner fills a blank with. */
export interface Fill {
  readonly blankId: string
  readonly routeId: string | null
  readonly zoneId: string | null
  readonly gait: string | null
}

/** A step as somebody is told it: with its blanks filled. One that is not filled stays empty. */
export function filledStep(step: BriefStep, fills: readonly Fill[]): BriefStep {
  const { blankId, gaitBlankId } = step
  if (blankId === null && gaitBlankId === null) return step
  const filled = { ...step } as unknown as Record<string, unknown>
  const fill = fills.find((f) => f.blankId === blankId)
  if (blankId !== null && 'routeId' in filled) filled.routeId = fill?.routeId ?? null
  if (blankId !== null && 'zoneId' in filled) filled.zoneId = fill?.zoneId ?? null
  if (gaitBlankId !== null && 'gait' in filled) filled.gait = fills.find((f) => f.blankId === gaitBlankId)?.gait ?? null
  return filled as unknown as BriefStep
}

/** The kind of a step. */
export const stepKind = (step: BriefStep): StepKind =>
  STEP_KINDS.find((s) => s.kind === step.kind) as unknown as StepKind

/** The kind of a standing sentence. */
export const whenKind = (when: BriefWhen): WhenKind =>
  WHEN_KINDS.find((w) => w.kind === when.kind) as unknown as WhenKind

/** A new step of a kind, with what it is made of for a start. */
export const newStep = <K extends BriefStep['kind']>(
  kind: K,
  more: Partial<Extract<BriefStep, { kind: K }>> = {},
): Extract<BriefStep, { kind: K }> => briefStepSchema.parse({ kind, ...more }) as Extract<BriefStep, { kind: K }>

/** A new standing sentence of a kind. */
export const newWhen = <K extends BriefWhen['kind']>(
  kind: K,
  id: string,
  more: Partial<Extract<BriefWhen, { kind: K }>> = {},
): Extract<BriefWhen, { kind: K }> => briefWhenSchema.parse({ kind, id, ...more }) as Extract<BriefWhen, { kind: K }>

/** The references of a step that it cannot be done without and that name nothing. */
export function missingIn(step: BriefStep): readonly Ref[] {
  const kind = stepKind(step)
  const needed = kind.needs?.(step as never) ?? (kind.refs ?? []).map((r) => r.path)
  // A blank is filled at the spawner.
  const blank = step.blankId !== null ? new Set(['routeId', 'zoneId']) : undefined
  return (kind.refs ?? []).filter(
    (r) =>
      !blank?.has(r.path) && needed.includes(r.path) && (step as unknown as Record<string, unknown>)[r.path] === null,
  )
}

/** A step as a sentence. */
export const stepWords = (step: BriefStep, name: Naming): string => stepKind(step).says(step as never, name)

/** A standing sentence: what interrupts, and what it then does after its steps. */
export const whenWords = (when: BriefWhen, name: Naming): string => whenKind(when).says(when as never, name)
export const afterWords = (when: BriefWhen): string => AFTER[when.after]

const under = (path: string, kinds: readonly { readonly refs?: readonly Ref[] }[]) =>
  kinds.flatMap((kind) => (kind.refs ?? []).map((ref): Ref => ({ ...ref, path: `${path}.*.${ref.path}` })))

export const brief = defineKind({
  in: 'briefs',
  prefix: 'br',
  word: 'brief',
  schema: briefSchema,
  parts: { in: 'steps', prefix: 'bs', word: 'step' },
  // Several kinds may name the same thing by the same key.
  refs: [...new Map([...under('steps', STEP_KINDS), ...under('whens', WHEN_KINDS)].map((r) => [r.path, r])).values()],
})
