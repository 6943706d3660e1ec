import { CheckedSurvey } from '@tidytrail/core/checks'
import { changeThings, newStep, newWhen, spawnerSchema, zoneSchema, type Level } from '@tidytrail/core/level'
import { previewSpawner, Run } from '@tidytrail/core/rehearsal'
import { Survey } from '@tidytrail/core/survey'
import { crowd } from './crowds'
import { quantile, report, timed } from './measure'

const SECONDS = 20

/** @returns agent-steps a second */
function rate(level: Level): number {
  const survey = new Survey()
  survey.update(level)
  const run = new Run(level, 1, survey)
  run.runTo(2)
  const { ms } = timed(() => run.runTo(2 + SECONDS))
  return (run.engine.world.count * SECONDS * level.settings.stepsPerSecond) / (ms / 1000)
}

/** The same level, but that everybody goes after whom they see, is on one of two sides, and minds being touched or held up. */
function minded(level: Level, whens: boolean): Level {
  const sides = { name: 'A', hostileTo: ['fc_b'], friendlyTo: [], pattern: 'plain', ink: 'pine' } as const
  const kept = { note: '', tags: [], locked: false, hidden: false }
  const factions = { fc_a: { ...sides, hostileTo: ['fc_b'], friendlyTo: [], ...kept }, fc_b: { ...sides, hostileTo: [], friendlyTo: [], ...kept } } // prettier-ignore
  const briefs = Object.fromEntries(
    Object.entries(level.briefs).map(([id, brief], k) => {
      if (!whens) return [id, brief]
      const sees = newWhen('sees', 'bw_a', { withinM: 6 })
      const extra = {
        [`bs_c${k}`]: newStep('chase', { whenId: 'bw_a', loseS: 2, forS: 4 }),
        [`bs_t${k}`]: newStep('pause', { whenId: 'bw_b', forS: 1 }),
      }
      return [
        id,
        {
          ...brief,
          steps: { ...brief.steps, ...extra },
          order: [...brief.order, ...Object.keys(extra)],
          whens: [sees, newWhen('touched', 'bw_b'), newWhen('blocked', 'bw_c', { forS: 20 })],
        },
      ]
    }),
  )
  // Every tenth is on the other side.
  const spawners = Object.fromEntries(
    Object.entries(level.spawners).map(([id, s], k) => [id, { ...s, factionId: k % 10 === 0 ? 'fc_b' : 'fc_a' }]),
  )
  return { ...level, factions, briefs, spawners } as Level
}

export function benchCast(): void {
  const plain = rate(minded(crowd(1000, 224), false))
  const told = rate(minded(crowd(1000, 224), true))
  report({
    what: 'rehearsal, 1,000 with three standing sentences each',
    measured: told,
    unit: 'agent-steps/s',
    less: false,
    reference: `1,000 that only follow in the same place ${Math.round(plain).toLocaleString('en')}`,
  })

  const ground = crowd(1, 200)
  const zones = Object.fromEntries(
    Array.from({ length: 200 }, (_, k) => {
      const [x, y] = [10 + (k % 15) * 12, 10 + Math.floor(k / 15) * 12]
      return [`zn_${k}`, zoneSchema.parse({ name: `Z${k}`, shape: 'circle', ring: [[x, y], [x + 5, y]] })] // prettier-ignore
    }),
  )
  const spawners = Object.fromEntries(
    Object.keys(zones).map((zoneId, k) => [
      `sp_z${k}`,
      spawnerSchema.parse({ name: `S${k}`, at: [1, 1, 0], profileId: 'pf_warden', where: 'area', zoneId, count: 8 }),
    ]),
  )
  const level: Level = { ...ground, zones, spawners }
  const survey = new Survey()
  survey.update(level)
  const planner = survey.plannerFor('pf_warden')!
  const ghosts = Array.from({ length: 9 }, () =>
    timed(() => Object.keys(spawners).map((id) => previewSpawner(level, id, planner, 1))),
  )
  const places = ghosts[0].value.reduce((n, p) => n + p.places.length, 0)
  report({
    what: 'ghosts of 200 spawners that send into zones',
    measured: quantile(
      ghosts.map((g) => g.ms),
      0.5,
    ),
    unit: 'ms',
    reference: `${places.toLocaleString('en')} places`,
  })

  const many = crowd(500, 400)
  const checked = new CheckedSurvey()
  const cold = timed(() => checked.update(many)).ms
  let now = many
  const edits = Array.from({ length: 60 }, (_, k) => {
    const result = changeThings.apply(now, { in: 'spawners', changes: { [`sp_${k}`]: { facingRad: k / 60 } } })
    now = result.level
    return timed(() => checked.update(now, result.patch)).ms
  })
  report({
    what: 'checks after one edit of 500 spawners, 95th',
    measured: quantile(edits, 0.95),
    unit: 'ms',
    budget: 20,
    reference: `median ${quantile(edits, 0.5).toFixed(1)} ms; from scratch ${Math.round(cold)} ms`,
  })
}
