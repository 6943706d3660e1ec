import type { BriefStep } from '@tidytrail/core/level'
import { again } from './again'
import { board } from './board'
import { chase } from './chase'
import { followRoute } from './follow-route'
import { getOut } from './get-out'
import { flee, goTo } from './go-to'
import { guard } from './guard'
import { hold } from './hold'
import { leave } from './leave'
import { pause } from './pause'
import { search } from './search'
import { shadow } from './shadow'
import type { StepContext, StepRow, StepRun } from './step'
import { giveSignal, waitSignal } from './signals'
import { stroll } from './stroll'
import { useObject } from './use-object'
import { usePassage } from './use-passage'
import { wander } from './wander'

/** How every kind of step is carried out. */
const RUNS: { readonly [K in BriefStep['kind']]: StepRun<K> } = {
  'follow-route': followRoute,
  pause,
  'go-to': goTo,
  wander,
  stroll,
  guard,
  hold,
  shadow,
  chase,
  search,
  flee,
  board,
  'get-out': getOut,
  'use-passage': usePassage,
  'use-object': useObject,
  'give-signal': giveSignal,
  'wait-signal': waitSignal,
  again,
  leave,
}

export const runOf = (kind: BriefStep['kind']) => RUNS[kind] as unknown as StepRun

export const compileStep = (context: StepContext, step: BriefStep): StepRow => runOf(step.kind).compile(context, step)

/** What somebody is told, as far as which steps follow each other. */
interface Told {
  readonly steps: readonly StepRow[]
  readonly whens: readonly { readonly steps: readonly StepRow[] }[]
}

/** The steps that are worked through. @param within a standing sentence, from 1 on; 0 for none */
export const stepsWithin = (told: Told | undefined, within: number): readonly StepRow[] =>
  (within === 0 ? told?.steps : told?.whens[within - 1]?.steps) ?? NO_STEPS
const NO_STEPS: readonly StepRow[] = []

/** The step somebody is at, and of several the one it is. */
export function stepAt(told: Told | undefined, within: number, step: number, choice: number): StepRow | undefined {
  const row = stepsWithin(told, within)[step]
  return row?.options[choice] ?? row
}

export * from './step'
