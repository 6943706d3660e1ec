import { Survey } from '@tidytrail/core/survey'
import { changeThings } from '@tidytrail/core/level'
import { Rehearsal } from '@tidytrail/core/rehearsal'
import { DEMO_LEVELS } from '@tidytrail/demo'
import { report, timed } from './measure'

const AGENTS_EACH = 200
const SECONDS = 60

export function benchRehearsal(): void {
  let level = DEMO_LEVELS[0].make()
  for (const id of Object.keys(level.spawners)) {
    level = changeThings.apply(level, { in: 'spawners', changes: { [id]: { count: AGENTS_EACH, everyS: 0.02 } } }).level
  }
  const survey = new Survey()
  survey.update(level)
  const rehearsal = new Rehearsal(level, 1, survey.plannerFor)
  rehearsal.runTo(5)
  const agents = rehearsal.world.agents.length
  const { ms } = timed(() => rehearsal.runTo(5 + SECONDS))
  const steps = agents * SECONDS * level.settings.stepsPerSecond
  report({
    what: `rehearsal, ${agents} walkers on Lanternquay, one core`,
    measured: steps / (ms / 1000),
    unit: 'agent-steps/s',
    budget: 250_000,
    less: false,
    reference: 'bodies do not avoid each other yet',
  })
}
