import { STATE } from '../world'
import { plainRow, type StepRun } from './step'

/** A round of a brief takes so long at least, seconds: one in which everything fails at once would else be begun at every step. */
const LEAST_S = 1

export const again: StepRun<'again'> = {
  kind: 'again',
  compile: ({ profile }, step) => ({ ...plainRow(step, profile.gaitMps), times: step.times ?? 0 }),
  begin({ world, t }, n, { times }) {
    if (times > 0 && world.begunAgain[n] >= times) return 'done'
    if (t - world.roundSince[n] >= LEAST_S) return 'again'
    world.state[n] = STATE.pausing
    world.until[n] = world.roundSince[n] + LEAST_S
    world.toStop[n] = -1
    return 'running'
  },
  update: ({ world, t }, n) => (t + 1e-9 >= world.until[n] ? 'again' : 'running'),
}
