import { levelSchema, PRESETS, type Level, type LevelInput } from '@tidytrail/core/level'
import { Survey } from '@tidytrail/core/survey'
import { Run } from '@tidytrail/core/rehearsal'
import { chance, sceneLevel } from '@tidytrail/core/testing'
import { quantile, report, timed } from './measure'

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

/** Carts on rounds of their own, far enough apart not to meet. */
export function carts(count: number): Level {
  const columns = Math.ceil(Math.sqrt(count))
  const sideM = columns * 30 + 10
  const base = crowd(1, 100)
  const level = levelSchema.parse({ ...sceneLevel(sideM, sideM, {}), profiles: { pf_cart: CART } })
  for (let k = 0; k < count; k++) {
    const [x, y] = [8 + (k % columns) * 30, 8 + Math.floor(k / columns) * 30]
    const ring = [
      [x, y],
      [x + 18, y],
      [x + 18, y + 18],
      [x, y + 18],
    ]
    const stops = Object.fromEntries(
      ring.map((_, q) => [`st_${k}c${q}`, { ...base.routes.rt_0.stops.st_0a, waypointId: `wp_${k}c${q}` }]),
    )
    ring.forEach(([px, py], q) => (level.waypoints[`wp_${k}c${q}`] = { ...base.waypoints.wp_0a, at: [px, py, 0] }))
    const more = { kind: 'lane', travel: 'round', legs: 'drawn', curve: 'smooth' } as const
    level.routes[`rt_${k}`] = { ...base.routes.rt_0, ...more, stops, order: Object.keys(stops) }
    const step = { kind: 'follow-route', routeId: `rt_${k}`, gait: null } as const
    level.briefs[`br_${k}`] = { ...base.briefs.br_0, steps: { [`bs_${k}`]: step }, order: [`bs_${k}`] }
    level.spawners[`sp_${k}`] = { ...base.spawners.sp_0, at: [x, y, 0], profileId: 'pf_cart', briefId: `br_${k}` }
  }
  return level
}

const CART = PRESETS.find((p) => p.medium === 'wheels')!

/** @returns agent-steps a second, and the run */
export function rate(level: Level): { rate: number; run: Run } {
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
