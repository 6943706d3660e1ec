import { STATE } from '../world'
import { plainRow, type StepRun } from './step'

export const pause: StepRun<'pause'> = {
  kind: 'pause',
  compile: (_level, step, profile) => ({ ...plainRow('pause', profile.gaitMps), forS: step.forS }),
  begin({ world, t }, n, { forS }) {
    world.state[n] = STATE.pausing
    world.until[n] = t + forS
    world.toStop[n] = -1
    return 'running'
  },
  update: ({ world, t }, n) => (t + 1e-9 >= world.until[n] ? 'done' : 'running'),
}
