import { describe, expect, it } from 'vitest'
import { levelSchema, type Level, type LevelInput } from '@tidytrail/core/level'
import { box, framesOf, preset, rehearsed, sceneLevel, stopsMade, travelLevel } from '@tidytrail/core/testing'

/** Walkers, each with a way of its own from one place to another. */
function walkers(
  ways: readonly (readonly [readonly [number, number], readonly [number, number]])[],
  sideM: number,
  solids: Parameters<typeof sceneLevel>[2] = {},
): Level {
  const waypoints: NonNullable<LevelInput['waypoints']> = {}
  const routes: Record<string, object> = {}
  const briefs: Record<string, object> = {}
  const spawners: Record<string, object> = {}
  ways.forEach(([from, to], k) => {
    waypoints[`wp_${k}a`] = { at: [...from, 0] }
    waypoints[`wp_${k}b`] = { at: [...to, 0] }
    const stops = { [`st_${k}a`]: { waypointId: `wp_${k}a` }, [`st_${k}b`]: { waypointId: `wp_${k}b` } }
    routes[`rt_${k}`] = { name: `R${k}`, stops, order: Object.keys(stops) }
    const steps = { [`bs_${k}`]: { kind: 'follow-route', routeId: `rt_${k}` } }
    briefs[`br_${k}`] = { name: 'B', steps, order: Object.keys(steps) }
    spawners[`sp_${k}`] = { name: `S${k}`, at: [...from, 0], profileId: 'pf_warden', briefId: `br_${k}` }
  })
  return levelSchema.parse(
    sceneLevel(sideM, sideM, solids, { waypoints, routes, briefs, spawners } as Partial<LevelInput>),
  )
}
const warden = preset('Warden')

describe('crowds', () => {
  it('a hundred on a ring change places with those opposite, and nobody touches anybody', () => {
    // van den Berg, Guy, Lin and Manocha (2011), their own trial: agents on a circle, each to the place across from it.
    const r = 24
    const at = (k: number): [number, number] => [
      30 + r * Math.cos((2 * Math.PI * k) / 100),
      30 + r * Math.sin((2 * Math.PI * k) / 100),
    ]
    const run = rehearsed(
      walkers(
        Array.from({ length: 100 }, (_, k) => [at(k), at(k + 50)]),
        60,
      ),
      150,
    )
    const arrived = new Set(run.engine.events.list.filter((e) => e.kind === 'reached' && e.a === 1).map((e) => e.key))
    expect(arrived.size).toBe(100)
    let nearest = Infinity
    for (const rows of framesOf(run))
      for (let i = 0; i < rows.length; i++)
        for (let j = 0; j < i; j++)
          nearest = Math.min(nearest, Math.hypot(rows[i].x - rows[j].x, rows[i].y - rows[j].y))
    expect(nearest).toBeGreaterThan(0.98 * 2 * warden.radiusM)
  })

  it('one behind the other none walks faster than those before it, and slower the more there are', () => {
    // Speed falls with density (Weidmann 1993): 1.34 m/s alone, and 0 where there is no room. Bodies of 0.7 m in file
    // in a corridor hardly wider than one; the first walks slowly and decides.
    const solids = { sd_n: box(0, 20.6, 80, 30), sd_s: box(0, 10, 80, 19.4) }
    const speedOf = (lead: number) => {
      const level = walkers(
        Array.from(
          { length: 8 },
          (_, k) =>
            [
              [18 - 2 * k, 20],
              [70 - 1.2 * k, 20],
            ] as const,
        ),
        80,
        solids,
      )
      level.profiles.pf_slow = { ...level.profiles.pf_warden, gaits: { walk: lead }, gait: 'walk' }
      level.spawners.sp_0.profileId = 'pf_slow'
      const rows = framesOf(rehearsed(level, 40)).slice(250)
      const last = rows.map((f) => f.find((q) => q.key === 8)!)
      const gaps = rows.map((f) => f.find((q) => q.key === 7)!.x - f.find((q) => q.key === 8)!.x)
      return { mps: (last.at(-1)!.x - last[0].x) / ((last.length - 1) / 10), gap: Math.min(...gaps) }
    }
    const [slow, quick] = [speedOf(0.4), speedOf(0.9)]
    expect(slow.mps).toBeCloseTo(0.4, 1)
    expect(quick.mps).toBeCloseTo(0.9, 1)
    expect(slow.gap).toBeGreaterThan(2 * warden.radiusM * 0.98)
  })

  it('a doorway lets through no more than the width of bodies allows, in turn', () => {
    // One body at a time: at most its speed over its width, v / 2r (2.0 a second for a warden).
    const solids = { sd_n: box(20, 20.5, 21, 60), sd_s: box(20, 0, 21, 19.5) }
    const ways = Array.from({ length: 20 }, (_, k) => {
      const [x, y] = [10 + (k % 5) * 1.6, 16 + Math.floor(k / 5) * 2.4]
      return [
        [x, y],
        [32 + (k % 5) * 1.6, y],
      ] as const
    })
    const run = rehearsed(walkers(ways, 60, solids), 90)
    const through = new Map<number, number>()
    framesOf(run).forEach((rows, k) => {
      for (const q of rows) if (q.x > 20.5 && !through.has(q.key)) through.set(q.key, k / 10)
    })
    expect(through.size).toBe(20)
    const times = [...through.values()].sort((a, b) => a - b)
    const rate = 19 / (times[19] - times[0])
    const most = (warden.gaits[warden.gait] ?? 1.4) / (2 * warden.radiusM)
    expect(rate).toBeLessThan(most)
    expect(rate).toBeGreaterThan(0.25 * most)
    expect(run.engine.events.list.some((e) => e.kind === 'gave-up')).toBe(false)
  })
})

describe('pure pursuit', () => {
  it('on a circle settles outside it by what geometry gives: √(R² + L²/4) − R at most', () => {
    // A cart that aims a chord L ahead on a circle of radius R runs along the arc through that chord (Coulter 1992).
    const R = 15
    const n = 24
    const stops = Array.from({ length: n }, (_, k): [number, number] => [
      40 + R * Math.cos((2 * Math.PI * k) / n),
      40 + R * Math.sin((2 * Math.PI * k) / n),
    ])
    const cart = preset('Tide-cart')
    const level = travelLevel(cart, stops, {
      route: { kind: 'circuit', travel: 'round', legs: 'drawn', curve: 'smooth' },
      sideM: 80,
    })
    const run = rehearsed(level, 60)
    const settled = framesOf(run)
      .slice(250)
      .map(([q]) => ({ off: Math.hypot(q.x - 40, q.y - 40) - R, speed: q.speed }))
    const speed = Math.max(...settled.map((s) => s.speed))
    const ahead = Math.max(0.8, 0.5 * cart.turnM) + 0.55 * speed
    const bound = Math.sqrt(R * R + (ahead * ahead) / 4) - R
    expect(Math.max(...settled.map((s) => Math.abs(s.off)))).toBeLessThan(bound + 0.05)
    // It has settled: it does not swing from side to side.
    const offs = settled.map((s) => s.off)
    expect(Math.max(...offs) - Math.min(...offs)).toBeLessThan(0.15)
    expect(stopsMade(run).length).toBeGreaterThan(n)
  })
})
