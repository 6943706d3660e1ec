import type { Level } from '@tidytrail/core/level'
import { Survey } from '@tidytrail/core/survey'
import { Run } from '@tidytrail/core/rehearsal'
import { carts, crowd, onGuard } from './crowds'
import { quantile, report, timed } from './measure'

const SECONDS = 20

/** @returns agent-steps a second, and the run */
function rate(level: Level): { rate: number; run: Run } {
  const survey = new Survey()
  survey.update(level)
  const rehearsal = new Run(level, 1, survey)
  rehearsal.runTo(2)
  const { ms } = timed(() => rehearsal.runTo(2 + SECONDS))
  return {
    rate: (rehearsal.engine.world.count * SECONDS * level.settings.stepsPerSecond) / (ms / 1000),
    run: rehearsal,
  }
}

export function benchRehearsal(): void {
  const unit = 'agent-steps/s'
  const { rate: crowded, run } = rate(crowd(1000, 100))
  report({
    what: 'rehearsal, 1,000 walkers on a hectare, avoiding each other',
    measured: crowded,
    unit,
    budget: 300_000,
    less: false,
  })
  const { rate: many, run: larger } = rate(crowd(5000, 224))
  report({
    what: 'rehearsal, 5,000 walkers at the same density',
    measured: many,
    unit,
    budget: 0.8 * crowded,
    less: false,
    reference: '0.8 of the rate at 1,000',
  })
  report({
    what: 'rehearsal, 1,000 walkers far apart',
    measured: rate(crowd(1000, 600)).rate,
    unit,
    budget: 1_000_000,
    less: false,
  })
  report({
    what: 'rehearsal, 1,000 carts on rounds of their own',
    measured: rate(carts(1000)).rate,
    unit,
    budget: 1_000_000,
    less: false,
  })
  const guards = onGuard(200, 20)
  const shut = {
    ...guards,
    profiles: Object.fromEntries(
      Object.entries(guards.profiles).map(([id, p]) => [id, { ...p, sightM: 0, hearsM: 0 }]),
    ),
  }
  // In turn, several times: each is short, and the machine is not the same from second to second.
  const rounds = Array.from({ length: 5 }, () => [guards, shut, crowd(220, 600)].map((level) => rate(level).rate))
  const [looking, blind, alone] = [0, 1, 2].map((k) =>
    quantile(
      rounds.map((r) => r[k]),
      0.5,
    ),
  )
  const avoidance = 100 * (1 - blind / alone)
  report({
    what: 'senses of 200 agents on 20 others, walls between: share of a step',
    measured: 100 * (1 - looking / blind),
    unit: '%',
    budget: Math.max(1, avoidance),
    reference: `what comes from being near others and walls takes ${avoidance.toFixed(0)} % of one`,
  })
  const { recording, world } = run.engine
  report({
    what: 'recording of 1,000 walkers, a minute',
    measured: (recording.size / 1e6) * (60 / run.t),
    unit: 'MB',
    budget: 6,
  })
  const seeks = Array.from({ length: 40 }, (_, k) => timed(() => recording.frame((k * 37) % recording.frameCount)).ms)
  report({ what: 'any frame of it, 95th', measured: quantile(seeks, 0.95), unit: 'ms', budget: 20 })
  const copies = Array.from({ length: 20 }, () => timed(() => larger.engine.world.snapshot()).ms)
  report({ what: 'snapshot of 5,000 agents, median', measured: quantile(copies, 0.5), unit: 'ms', budget: 3 })
  const snapshot = world.snapshot()
  const backs = Array.from({ length: 20 }, () => timed(() => world.restore(snapshot)).ms)
  report({ what: 'restore of 1,000 agents, median', measured: quantile(backs, 0.5), unit: 'ms' })
}
