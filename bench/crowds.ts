import { newStep, levelSchema, PRESETS, type Level, type LevelInput } from '@tidytrail/core/level'
import { chance, sceneLevel } from '@tidytrail/core/testing'

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
    const step = newStep('follow-route', { routeId: `rt_${k}` })
    level.briefs[`br_${k}`] = { ...base.briefs.br_0, steps: { [`bs_${k}`]: step }, order: [`bs_${k}`] }
    level.spawners[`sp_${k}`] = { ...base.spawners.sp_0, at: [x, y, 0], profileId: 'pf_cart', briefId: `br_${k}` }
  }
  return level
}

const CART = PRESETS.find((p) => p.medium === 'wheels')!

/** Guards who watch for others of another faction, all of them walking among walls on three hectares. */
export function onGuard(guards: number, others: number): Level {
  const level = crowd(guards + others, 170)
  const next = chance(9)
  const wall = sceneLevel(10, 10, {})
  for (let k = 0; k < 40; k++) {
    const [x, y] = [5 + next() * 155, 5 + next() * 155]
    level.solids[`sd_${k}`] = levelSchema.parse({
      ...wall,
      solids: {
        sd_a: {
          shape: 'box',
          name: `W${k}`,
          at: [x, y],
          sizeX: 6,
          sizeY: 0.4,
          baseM: 0,
          heightM: 3,
          turnRad: next() * 3,
        },
      },
    }).solids.sd_a
  }
  const faction = { ...levelSchema.parse({ ...wall, factions: { fc_a: { name: 'A' } } }).factions.fc_a }
  level.factions = { fc_a: faction, fc_b: { ...faction, name: 'B' } }
  Object.values(level.spawners).forEach((s, k) => (s.factionId = k < guards ? null : 'fc_b'))
  return level
}
