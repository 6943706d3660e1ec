import { z } from 'zod'
import { id, kept, name } from '../../fields'
import { defineKind, type Ref } from '../kind'
import type { StepKind } from './step'
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
