import { plainRow, type StepRun } from './step'

export const leave: StepRun<'leave'> = {
  kind: 'leave',
  compile: ({ profile }, step) => plainRow(step, profile.gaitMps),
  begin: () => 'leaves',
  update: () => 'leaves',
}
