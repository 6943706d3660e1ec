import { STATE } from '../world'
import { plainRow, type StepRun } from './step'

export const pause: StepRun<'pause'> = {
  kind: 'pause',
  compile: ({ profile }, step) => ({ ...plainRow(step, profile.gaitMps), forS: step.forS }),
  begin({ world, t }, n, { forS }) {
    world.state[n] = STATE.pausing
    // Of one that was interrupted what is left of it.
    world.until[n] = Math.max(t, world.stepSince[n] + forS)
    world.toStop[n] = -1
    return 'running'
  },
  update: ({ world, t }, n) => (t + 1e-9 >= world.until[n] ? 'done' : 'running'),
}
