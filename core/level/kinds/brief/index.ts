import { z } from 'zod'
import { id, kept, name } from '../../fields'
import { defineKind, type Ref } from '../kind'
import type { Naming, StepKind } from './step'
import { STEP_KINDS } from './steps/list'

type Schemas<T extends readonly StepKind[]> = { -readonly [K in keyof T]: T[K]['schema'] }

export const briefStepSchema = z.discriminatedUnion(
  'kind',
  STEP_KINDS.map((s) => s.schema) as unknown as Schemas<typeof STEP_KINDS>,
)
export type BriefStep = z.output<typeof briefStepSchema>

export const briefSchema = z.strictObject({
  name,
  steps: z.record(id, briefStepSchema),
  order: z.array(id).max(1000),
  ...kept,
})
export type Brief = z.output<typeof briefSchema>

/** The kind of a step. */
export const stepKind = (step: BriefStep): StepKind =>
  STEP_KINDS.find((s) => s.kind === step.kind) as unknown as StepKind

/** A new step of a kind, with what it is made of for a start. */
export const newStep = <K extends BriefStep['kind']>(
  kind: K,
  more: Partial<Extract<BriefStep, { kind: K }>> = {},
): Extract<BriefStep, { kind: K }> => briefStepSchema.parse({ kind, ...more }) as Extract<BriefStep, { kind: K }>

/** A step as a sentence. */
export const stepWords = (step: BriefStep, name: Naming): string => stepKind(step).says(step as never, name)

const refs = (STEP_KINDS as readonly StepKind[]).flatMap((step) =>
  (step.refs ?? []).map((ref): Ref => ({ ...ref, path: `steps.*.${ref.path}` })),
)

export const brief = defineKind({
  in: 'briefs',
  prefix: 'br',
  word: 'brief',
  schema: briefSchema,
  parts: { in: 'steps', prefix: 'bs', word: 'step' },
  refs,
})
