import type { BriefStep, Level } from '@tidytrail/core/level'
import type { ProfileRow, Registers } from '../scenario'
import { again } from './again'
import { followRoute } from './follow-route'
import { goTo } from './go-to'
import { leave } from './leave'
import { pause } from './pause'
import type { StepRow, StepRun } from './step'
import { wander } from './wander'

/** How every kind of step is carried out. */
const RUNS: { readonly [K in BriefStep['kind']]: StepRun<K> } = {
  'follow-route': followRoute,
  pause,
  'go-to': goTo,
  wander,
  again,
  leave,
}

export const runOf = (kind: BriefStep['kind']) => RUNS[kind] as unknown as StepRun

export const compileStep = (level: Level, step: BriefStep, profile: ProfileRow, registers: Registers): StepRow =>
  runOf(step.kind).compile(level, step, profile, registers)

export * from './step'
