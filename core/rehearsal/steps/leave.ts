import { plainRow, type StepRun } from './step'

export const leave: StepRun<'leave'> = {
  kind: 'leave',
  compile: (_level, _step, profile) => plainRow('leave', profile.gaitMps),
  begin: () => 'leaves',
  update: () => 'leaves',
}
