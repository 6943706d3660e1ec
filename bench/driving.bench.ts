import { Run } from '@tidytrail/core/rehearsal'
import { Survey } from '@tidytrail/core/survey'
import { report, timed } from './measure'
import { ALL_THERE_S, rings } from './rings'

const SECONDS = 10

/** Vehicles that drive behind each other along lanes, beside walkers far apart. */
export function benchDriving(): void {
  for (const vehicles of [100, 1000, 10_000]) {
    const level = rings(vehicles)
    const survey = new Survey()
    survey.update(level)
    const run = new Run(level, 1, survey)
    run.runTo(ALL_THERE_S)
    const { count } = run.engine.world
    const { ms } = timed(() => run.runTo(ALL_THERE_S + SECONDS))
    report({
      what: `rehearsal, ${count.toLocaleString('en')} vehicles along lanes`,
      measured: (count * SECONDS * level.settings.stepsPerSecond) / (ms / 1000),
      unit: 'agent-steps/s',
      budget: 1_000_000,
      less: false,
    })
  }
}
