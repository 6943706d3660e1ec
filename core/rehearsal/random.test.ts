import fc from 'fast-check'
import { expect, it } from 'vitest'
import { footprint } from '@tidytrail/core/ground'
import { levelSchema, PRESETS, type Level, type LevelInput, type TravelMode } from '@tidytrail/core/level'
import { box, chance, framesOf, placeToLine, rehearsed, sceneLevel, sidesOf, type Row } from '@tidytrail/core/testing'

/** So many random levels are rehearsed; more with the variable set. */
const LEVELS = Number(process.env.TIDYTRAIL_RANDOM_RUNS ?? 20)
const SIDE_M = 60
const TRAVEL: readonly TravelMode[] = ['one-way', 'round', 'there-and-back', 'any-order']

/** A small level with crates, a ramp, water or none, and a few bodies of every kind on routes of every kind. */
function randomLevel(seed: number): Level {
  const next = chance(seed)
  const wet = next() < 0.4
  const solids: Parameters<typeof sceneLevel>[2] = {}
  for (let k = 0; k < 3 + next() * 5; k++) {
    const [x, y] = [4 + next() * 48, 4 + next() * 48]
    solids[`sd_${k}`] = box(x, y, x + 0.5 + next() * 6, y + 0.5 + next() * 6, 3, { turnRad: next() * 3, name: `S${k}` })
  }
  solids.sd_ramp = {
    shape: 'ramp',
    name: 'Ramp',
    at: [30, 30],
    sizeX: 8,
    sizeY: 4,
    turnRad: next() * 6,
    baseM: 0,
    heightM: 1.5,
    walkable: true,
  } as never
  const waypoints: NonNullable<LevelInput['waypoints']> = {}
  const routes: NonNullable<LevelInput['routes']> = {}
  const briefs: NonNullable<LevelInput['briefs']> = {}
  const spawners: NonNullable<LevelInput['spawners']> = {}
  const profiles = Object.fromEntries(PRESETS.map((p, k) => [`pf_${k}`, p]))
  for (let r = 0; r < 4; r++) {
    const profile = PRESETS[Math.floor(next() * PRESETS.length)]
    const high = profile.medium === 'air' ? 6 + next() * 6 : wet && profile.medium === 'water' ? 1 : 0
    const order: string[] = []
    const stops: Record<string, object> = {}
    const travel = TRAVEL[Math.floor(next() * 4)]
    for (let k = 0; k < 3 + Math.floor(next() * 3); k++) {
      waypoints[`wp_${r}${k}`] = { at: [4 + next() * 52, 4 + next() * 52, high] }
      const pauseS = next() < 0.3 ? next() * 3 : 0
      stops[`st_${r}${k}`] = {
        waypointId: `wp_${r}${k}`,
        pause: { minS: pauseS, maxS: pauseS },
        arrivalRadiusM: next() < 0.2 ? 2 : null,
      }
      order.push(`st_${r}${k}`)
    }
    const smooth = next() < 0.3 ? { legs: 'drawn', curve: 'smooth' } : {}
    routes[`rt_${r}`] = { name: `R${r}`, travel, stops, order, ...smooth } as never
    briefs[`br_${r}`] = {
      name: 'B',
      steps: { [`bs_${r}`]: { kind: 'follow-route', routeId: `rt_${r}` } },
      order: [`bs_${r}`],
    }
    spawners[`sp_${r}`] = {
      name: `A${r}`,
      at: [4 + next() * 52, 4 + next() * 52, high],
      profileId: `pf_${PRESETS.indexOf(profile)}`,
      briefId: `br_${r}`,
      count: 1 + Math.floor(next() * 4),
      everyS: next() * 2,
      facingRad: next() * 6,
    }
  }
  const more = { waypoints, routes, briefs, spawners, profiles, ...(wet && { settings: { waterLevelM: 1 } as never }) }
  return levelSchema.parse(sceneLevel(SIDE_M, SIDE_M, solids, more))
}

it('nobody overlaps, passes a solid, leaves its band or its limits, whatever the level, the bodies and the routes', () => {
  let rows = 0
  let flown = 0
  let lifted = 0
  const tried = new Set<string>()
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 1_000_000 }), (seed) => {
      const level = randomLevel(seed)
      const run = rehearsed(level, 20, seed)
      const of = new Map(run.engine.members.map((m) => [m.key, level.profiles[m.profileId]]))
      const lines = Object.values(level.solids)
        .filter((s) => s.shape === 'box')
        .flatMap((s) => sidesOf(footprint(s)))
      const before = new Map<number, Row>()
      /** Pairs that have been apart once: who appeared inside another is not to blame. */
      const apart = new Set<string>()
      for (const frame of framesOf(run)) {
        for (const row of frame) {
          const profile = of.get(row.key)!
          tried.add(profile.medium)
          rows++
          for (const v of [row.x, row.y, row.z, row.heading, row.speed]) expect(Number.isFinite(v)).toBe(true)
          const most = Math.max(...Object.values(profile.gaits))
          expect(row.speed).toBeLessThan(most * 1.02 + 0.02)
          const was = before.get(row.key)
          if (was && row.state !== 'crossing' && was.state !== 'crossing') {
            const m = Math.hypot(row.x - was.x, row.y - was.y)
            expect(m).toBeLessThan(most * 0.1 * 1.05 + 0.01)
            // Speeding up within what it can do; who is stopped by touching stops at once.
            expect((row.speed - was.speed) * 10).toBeLessThan(profile.accelMps2 * 1.05 + 0.1)
            if (profile.medium === 'air') {
              // It sinks no faster than it can; what rises too steeply ahead for its slowest speed lifts it.
              expect((was.z - row.z) * 10).toBeLessThan(profile.climbMps + 0.1)
              flown++
              if ((row.z - was.z) * 10 > profile.climbMps + 0.1) lifted++
            }
          }
          if (profile.medium !== 'air' && row.state !== 'blocked')
            for (const [a, b] of lines)
              expect(placeToLine([row.x, row.y], a, b), `${profile.name} at a solid`).toBeGreaterThan(
                profile.radiusM - 0.012,
              )
          for (const other of frame) {
            if (other.key >= row.key || other.state === 'crossing' || row.state === 'crossing') continue
            const [p, q] = [profile, of.get(other.key)!]
            if (Math.abs(other.z - row.z) >= Math.max(p.heightM, q.heightM)) continue
            const gap = Math.hypot(other.x - row.x, other.y - row.y) - p.radiusM - q.radiusM
            const pair = `${other.key} ${row.key}`
            const slack = 0.02 * Math.min(p.radiusM, q.radiusM) + 0.003
            if (gap >= -slack) apart.add(pair)
            else if (apart.has(pair)) {
              // Over or under one another they may be; places are recorded to the millimetre.
              const dz = other.z - row.z
              if (dz < p.heightM - 0.002 && -dz < q.heightM - 0.002)
                expect(gap, `${p.name} and ${q.name}`).toBeGreaterThan(-slack)
            }
          }
          before.set(row.key, row)
        }
      }
    }),
    { numRuns: LEVELS },
  )
  console.info(`${LEVELS} random levels, ${rows} places of ${tried.size} kinds of bodies: all within their limits`)
  console.info(`flyers were lifted over what rises too steeply in ${lifted} of ${flown} frames`)
  expect(lifted).toBeLessThanOrEqual(0.02 * flown)
  expect(tried.size).toBe(5)
  expect(rows).toBeGreaterThan(LEVELS * 300)
}, 240_000)
