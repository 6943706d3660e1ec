import { levelSchema, type Level, type LevelInput } from '@tidytrail/core/level'
import { Survey } from '@tidytrail/core/survey'
import { Run } from '@tidytrail/core/rehearsal'
import { chance, sceneLevel } from '@tidytrail/core/testing'
import { report, timed } from './measure'

const SECONDS = 20

/** Walkers strewn over a square, so many square metres for each, who go to and fro between two places. */
export function crowd(count: number, sideM: number): Level {
  const next = chance(5)
  const waypoints: NonNullable<LevelInput['waypoints']> = {}
  const routes: NonNullable<LevelInput['routes']> = {}
  const briefs: NonNullable<LevelInput['briefs']> = {}
  const spawners: NonNullable<LevelInput['spawners']> = {}
  const columns = Math.ceil(Math.sqrt(count))
  for (let k = 0; k < count; k++) {
    const step = (sideM - 4) / columns
    const at: [number, number, number] = [2 + (k % columns) * step, 2 + Math.floor(k / columns) * step, 0]
    waypoints[`wp_${k}a`] = { at }
    waypoints[`wp_${k}b`] = { at: [2 + next() * (sideM - 4), 2 + next() * (sideM - 4), 0] }
    const stops = { [`st_${k}b`]: { waypointId: `wp_${k}b` }, [`st_${k}a`]: { waypointId: `wp_${k}a` } }
    routes[`rt_${k}`] = { name: `R${k}`, travel: 'there-and-back', stops, order: Object.keys(stops) }
    briefs[`br_${k}`] = {
      name: 'B',
      steps: { [`bs_${k}`]: { kind: 'follow-route', routeId: `rt_${k}` } },
      order: [`bs_${k}`],
    }
    spawners[`sp_${k}`] = { name: `S${k}`, at, profileId: 'pf_warden', briefId: `br_${k}` }
  }
  return levelSchema.parse({ ...sceneLevel(sideM, sideM, {}), waypoints, routes, briefs, spawners })
}

/** @returns agent-steps a second */
function rate(level: Level): number {
  const survey = new Survey()
  survey.update(level)
  const rehearsal = new Run(level, 1, survey)
  rehearsal.runTo(2)
  const { ms } = timed(() => rehearsal.runTo(2 + SECONDS))
  return (rehearsal.engine.world.count * SECONDS * level.settings.stepsPerSecond) / (ms / 1000)
}

export function benchRehearsal(): void {
  const unit = 'agent-steps/s'
  const crowded = rate(crowd(1000, 100))
  report({
    what: 'rehearsal, 1,000 walkers on a hectare, avoiding each other',
    measured: crowded,
    unit,
    budget: 300_000,
    less: false,
  })
  const many = rate(crowd(5000, 224))
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
    measured: rate(crowd(1000, 600)),
    unit,
    budget: 1_000_000,
    less: false,
  })
}
