import { footprint } from '@tidytrail/core/ground'
import { levelSchema, type Level, type LevelInput } from '@tidytrail/core/level'
import { buildReach, reachSource } from '@tidytrail/core/reach'
import { box, chance, placeToLine, sceneLevel, sidesOf } from '@tidytrail/core/testing'
import { framesOf, rehearsed as run, type Row } from '@tidytrail/core/testing'
import { describe, expect, it } from 'vitest'
import type { Run } from '.'
import { withoutTouching } from './avoid'

type Walk = { from: [number, number]; to: [number, number]; afterS?: number }
const RADIUS_M = 0.35

/** Walkers who each go from one place to another. */
function scene(walks: readonly Walk[], solids: Parameters<typeof sceneLevel>[2] = {}): Level {
  const waypoints: NonNullable<LevelInput['waypoints']> = {}
  const routes: NonNullable<LevelInput['routes']> = {}
  const briefs: NonNullable<LevelInput['briefs']> = {}
  const spawners: NonNullable<LevelInput['spawners']> = {}
  walks.forEach(({ from, to, afterS = 0 }, k) => {
    waypoints[`wp_${k}a`] = { at: [...from, 0] }
    waypoints[`wp_${k}b`] = { at: [...to, 0] }
    const stops = { [`st_${k}a`]: { waypointId: `wp_${k}a` }, [`st_${k}b`]: { waypointId: `wp_${k}b` } }
    routes[`rt_${k}`] = { name: `Walk ${k}`, travel: 'one-way', stops, order: Object.keys(stops) }
    briefs[`br_${k}`] = {
      name: 'B',
      steps: { [`bs_${k}`]: { kind: 'follow-route', routeId: `rt_${k}` } },
      order: [`bs_${k}`],
    }
    const brief = { profileId: 'pf_warden', briefId: `br_${k}`, firstAfterS: afterS }
    spawners[`sp_${String(k).padStart(3, '0')}`] = { name: `W${k}`, at: [...from, 0], ...brief }
  })
  return levelSchema.parse({ ...sceneLevel(40, 40, solids), waypoints, routes, briefs, spawners })
}
const placesIn = (frame: readonly Row[]) => frame.map((f) => [f.x, f.y])
/** The nearest two ever come to one another, metres. */
function nearest(of: Run): number {
  let best = Infinity
  for (const frame of framesOf(of)) {
    const places = placesIn(frame)
    for (let a = 1; a < places.length; a++)
      for (let b = 0; b < a; b++)
        best = Math.min(best, Math.hypot(places[a][0] - places[b][0], places[a][1] - places[b][1]))
  }
  return best
}
const arrived = (r: Run) =>
  new Set(r.engine.events.list.filter((e) => e.kind === 'reached' && e.a === 1).map((e) => e.key)).size
/** Touching but for two hundredths of a radius, and the millimetre places are recorded to. */
const APART_M = 2 * RADIUS_M - 0.02 * RADIUS_M - 0.002

describe('walkers', () => {
  /** How near two come, one of them carried along a lane, of whom one moves any way from so far off; less what both take up, metres. */
  function leastApart(moves: 'walker' | 'wagon', offM: number): number {
    const ends = { from: [10, 20], to: [30, 20] } as Walk
    const { engine } = run(scene([ends, ends]), 1)
    const { world } = engine
    const slots = { walker: 0, wagon: 1 }
    world.rail[slots.wagon] = 1
    world.radius[slots.wagon] = 1.4
    const [n, m] = moves === 'walker' ? [slots.walker, slots.wagon] : [slots.wagon, slots.walker]
    let least = Infinity
    for (let k = 0; k < 200; k++) {
      const from = RADIUS_M + 1.4 + offM + (k % 7) * 0.02
      world.x[m] = world.y[m] = 20
      world.x[n] = 20 + from * Math.cos(k)
      world.y[n] = 20 + from * Math.sin(k)
      engine.near.sort(world.count, world.x, world.y, world.key, 1)
      const [dx, dy] = withoutTouching(engine, n, 0.2 * Math.cos(k * 1.7), 0.2 * Math.sin(k * 1.7))
      least = Math.min(least, Math.hypot(world.x[n] + dx - 20, world.y[n] + dy - 20))
    }
    return least - RADIUS_M - 1.4
  }

  it('keep clear of whoever drives on a lane, by any way they go along it', () => {
    expect(leastApart('walker', 0.021)).toBeGreaterThan(0)
  })

  it('are not brushed by what drives on a lane past where they are held', () => {
    // Not by what places are recorded to, a millimetre, either.
    expect(leastApart('wagon', 0.0025)).toBeGreaterThan(0.001)
  })

  it.each([0, 0.2, 0.6])('who meet head on, %f m beside one another, pass and lose little time', (off) => {
    const rehearsal = run(
      scene([
        { from: [10, 20], to: [30, 20] },
        { from: [30, 20 + off], to: [10, 20 + off] },
      ]),
      40,
    )
    expect(nearest(rehearsal)).toBeGreaterThan(APART_M)
    expect(arrived(rehearsal)).toBe(2)
    for (const { legs, verdict } of rehearsal.verdicts()) {
      expect(verdict).toBe('follows')
      expect(legs.tookS).toBeLessThan(20 / 1.4 + 2.5)
    }
  })

  it('walk on by themselves as they did before there were others', () => {
    const alone = run(scene([{ from: [10, 20], to: [30, 20] }]), 30)
    const far = run(
      scene([
        { from: [10, 20], to: [30, 20] },
        { from: [10, 38], to: [30, 38] },
      ]),
      30,
    )
    const first = (r: Run) => framesOf(r).map((f) => f[0])
    expect(first(far)).toEqual(first(alone))
  })

  it('of two streams that cross touch nobody, and all come through', () => {
    const walks = Array.from({ length: 24 }, (_, k): Walk => {
      const lane = 17 + (k % 4) * 1.6
      const afterS = Math.floor(k / 8) * 2
      return k % 8 < 4 ? { from: [6, lane], to: [34, lane], afterS } : { from: [lane, 6], to: [lane, 34], afterS }
    })
    const rehearsal = run(scene(walks), 60)
    expect(nearest(rehearsal)).toBeGreaterThan(APART_M)
    expect(arrived(rehearsal)).toBe(24)
  })

  it('of a ring who change places with those opposite all come there', () => {
    const n = 16
    const at = (k: number): [number, number] => [
      20 + 9 * Math.cos((2 * Math.PI * k) / n),
      20 + 9 * Math.sin((2 * Math.PI * k) / n),
    ]
    const rehearsal = run(scene(Array.from({ length: n }, (_, k) => ({ from: at(k), to: at(k + n / 2) }))), 90)
    expect(nearest(rehearsal)).toBeGreaterThan(APART_M)
    expect(arrived(rehearsal)).toBe(n)
  })

  it('who go to one place stand there apart, and all have arrived', () => {
    const walks = Array.from({ length: 9 }, (_, k): Walk => {
      const a = (2 * Math.PI * k) / 9
      return { from: [20 + 12 * Math.cos(a), 20 + 12 * Math.sin(a)], to: [20, 20] }
    })
    const rehearsal = run(scene(walks), 60)
    expect(nearest(rehearsal)).toBeGreaterThan(APART_M)
    expect(arrived(rehearsal)).toBe(9)
    // No farther off than nine bodies need.
    for (const [x, y] of placesIn(framesOf(rehearsal).at(-1)!)) expect(Math.hypot(x - 20, y - 20)).toBeLessThan(2.6)
  })

  it('go through a doorway one after the other, nearer to no jamb than their radius', () => {
    const solids = { sd_s: box(19.5, 0, 20.5, 19.4), sd_n: box(19.5, 20.6, 20.5, 40) }
    const walks = Array.from({ length: 12 }, (_, k): Walk => ({
      from: [8 + (k % 3) * 1.2, 16 + Math.floor(k / 3) * 2],
      to: [32, 14 + k],
    }))
    const level = scene(walks, solids)
    const rehearsal = run(level, 90)
    expect(nearest(rehearsal)).toBeGreaterThan(APART_M)
    expect(arrived(rehearsal)).toBe(12)
    const lines = Object.values(level.solids).flatMap((s) => sidesOf(footprint(s)))
    for (const frame of framesOf(rehearsal))
      for (const place of placesIn(frame))
        for (const [a, b] of lines) expect(placeToLine(place, a, b)).toBeGreaterThan(RADIUS_M - 0.01)
  })

  it('strewn by chance in a yard with crates touch neither each other nor a crate, and nearly all arrive', () => {
    let [walked, came] = [0, 0]
    for (let seed = 1; seed <= 6; seed++) {
      const next = chance(seed)
      const solids = Object.fromEntries(
        Array.from({ length: 8 }, (_, k) => {
          const [x, y] = [6 + next() * 26, 6 + next() * 26]
          return [`sd_${k}`, box(x, y, x + 0.5 + next() * 2, y + 0.5 + next() * 2)]
        }),
      )
      const map = buildReach(reachSource(sceneLevel(40, 40, solids), 'pf_warden'))
      const spots: [number, number][] = []
      while (spots.length < 60) {
        const [x, y] = [2 + next() * 36, 2 + next() * 36]
        const spot = map.floorAt(x, y, 0)
        if (spot && map.isFree(spot, x, y) && spots.every(([a, b]) => Math.hypot(a - x, b - y) > 1)) spots.push([x, y])
      }
      const walks = Array.from({ length: 30 }, (_, k): Walk => ({ from: spots[k], to: spots[30 + k] }))
      const rehearsal = run(scene(walks, solids), 60)
      expect(nearest(rehearsal), `seed ${seed}`).toBeGreaterThan(APART_M)
      walked += 30
      came += arrived(rehearsal)
    }
    console.info(
      `${came} of ${walked} walkers in yards by chance came where they were going, and nobody touched anybody`,
    )
    expect(came / walked).toBeGreaterThan(0.97)
  })

  it('appear one after the other where there is room, however many are sent at once', () => {
    const level = scene([{ from: [10, 20], to: [30, 20] }])
    const crowd = { ...level, spawners: { sp_000: { ...level.spawners.sp_000, count: 6, everyS: 0 } } }
    const rehearsal = run(crowd, 60)
    expect(nearest(rehearsal)).toBeGreaterThan(APART_M)
    expect(arrived(rehearsal)).toBe(6)
    const came = rehearsal.engine.members.map((m) => m.appearedS)
    expect(came[0]).toBe(0)
    expect(new Set(came).size).toBe(6)
    // Nobody is said to be late for having waited to appear.
    for (const { verdict, reasons } of rehearsal.verdicts()) {
      expect(verdict).not.toBe('does-not-follow')
      expect(reasons.join()).not.toMatch(/behind|longer/)
    }
  })

  it('give the same recording again', () => {
    const walks: Walk[] = [
      { from: [10, 20], to: [30, 20] },
      { from: [30, 20.1], to: [10, 20] },
      { from: [20, 10], to: [20, 30] },
    ]
    expect(run(scene(walks), 30).hash).toBe(run(scene(walks), 30).hash)
  })
})
