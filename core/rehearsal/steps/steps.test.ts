import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { levelSchema, newStep, STEP_KINDS, type BriefStep, type Level, type LevelInput } from '@tidytrail/core/level'
import { STATES } from '..'
import { box, framesOf, rehearsed, sceneLevel } from '@tidytrail/core/testing'

/** A zone of 20 × 20 m with a block in its middle, on a level of 60 × 60 m. */
const zone: [number, number][] = [
  [30, 30],
  [50, 30],
  [50, 50],
  [30, 50],
]
const BLOCK = { sd_a: box(36, 36, 44, 44, 3, { walkable: false }) }
/** Somebody with a brief of steps, who appears at (10, 10). */
function told(
  steps: readonly BriefStep[],
  more: Partial<LevelInput> = {},
  solids: Parameters<typeof sceneLevel>[2] = BLOCK,
): Level {
  const ids = steps.map((_, k) => `bs_${k}`)
  const stops = { st_a: { waypointId: 'wp_a' }, st_b: { waypointId: 'wp_b' }, st_c: { waypointId: 'wp_c' } }
  return levelSchema.parse({
    ...sceneLevel(60, 60, solids),
    waypoints: { wp_a: { at: [10, 10, 0] }, wp_b: { at: [20, 10, 0] }, wp_c: { at: [20, 20, 0] } },
    routes: {
      rt_round: { name: 'Beat', travel: 'round', stops, order: ['st_a', 'st_b', 'st_c'] },
      rt_back: { name: 'Line', travel: 'there-and-back', stops, order: ['st_a', 'st_b', 'st_c'] },
      rt_any: { name: 'Any', travel: 'any-order', stops, order: ['st_a', 'st_b', 'st_c'] },
    },
    markers: { mk_a: { name: 'Bell', at: [25, 10, 0] } },
    zones: { zn_a: { name: 'Yard', ring: zone } },
    briefs: { br_a: { name: 'B', steps: Object.fromEntries(steps.map((s, k) => [ids[k], s])), order: ids } },
    spawners: { sp_a: { name: 'Gate', at: [10, 10, 0], profileId: 'pf_warden', briefId: 'br_a' } },
    ...more,
  } as LevelInput)
}
/** What happened, as words with the time in seconds. */
const story = (level: Level, seconds: number, seed = 1) => {
  const run = rehearsed(level, seconds, seed)
  return { run, frames: framesOf(run), events: run.engine.events.list }
}
const kindsOf = (events: readonly { kind: string }[]) => events.map((e) => e.kind)

describe('wandering', () => {
  it('goes to places all over the floor of its zone and no others, and stands at each for as long as it is told', () => {
    const { frames } = story(
      told([newStep('wander', { zoneId: 'zn_a', pause: { minS: 1, maxS: 3 } })], {
        spawners: { sp_a: { name: 'Gate', at: [33, 33, 0], profileId: 'pf_warden', briefId: 'br_a' } },
      } as never),
      3000,
    )
    // Where it stood for longer than a moment, from the recording alone, and for how long.
    const halts: { x: number; y: number; frames: number }[] = []
    for (const [q] of frames) {
      const last = halts.at(-1)
      if (q.speed > 0.01) {
        if (!last || last.frames > 0) halts.push({ x: q.x, y: q.y, frames: 0 })
      } else if (last) {
        last.frames++
        last.x = q.x
        last.y = q.y
      }
    }
    const stood = halts.filter((h) => h.frames >= 8)
    expect(stood.length).toBeGreaterThan(120)
    for (const h of stood) {
      // Half a metre is how near one comes to a place.
      expect(Math.min(h.x - 30, 50 - h.x, h.y - 30, 50 - h.y)).toBeGreaterThan(-0.5)
      expect(h.x > 36 && h.x < 44 && h.y > 36 && h.y < 44).toBe(false)
      expect(h.frames / 10).toBeLessThan(3.6)
    }
    // Even over the eight squares about the block: chi-square with 7 degrees of freedom is below 18.5 in 99 of 100.
    const counts = new Array<number>(9).fill(0)
    for (const h of stood)
      counts[Math.min(2, Math.floor((h.x - 30) / 6.67)) + 3 * Math.min(2, Math.floor((h.y - 30) / 6.67))]++
    const round = counts.filter((_, k) => k !== 4)
    const each = round.reduce((a, b) => a + b) / 8
    expect(round.reduce((sum, n) => sum + (n - each) ** 2 / each, 0)).toBeLessThan(18.5)
  })

  it('goes on to what comes next when its time is over, and when there is no floor to wander on', () => {
    const timed = story(
      told([newStep('wander', { zoneId: 'zn_a', forS: 40 }), newStep('go-to', { markerId: 'mk_a' })]),
      120,
    )
    const [end] = timed.frames.at(-1)!
    expect(Math.hypot(end.x - 25, end.y - 10)).toBeLessThan(0.6)
    const began = timed.events.filter((e) => e.kind === 'began').map((e) => e.step / 30)
    expect(began[1]).toBeGreaterThanOrEqual(40)
    expect(began[1]).toBeLessThan(40.1)
    const walled = { ...BLOCK, sd_b: box(29, 29, 51, 51, 3, { walkable: false }) }
    const none = story(
      told([newStep('wander', { zoneId: 'zn_a' }), newStep('go-to', { markerId: 'mk_a' })], {}, walled),
      60,
    )
    expect(kindsOf(none.events).slice(0, 4)).toEqual(['appeared', 'began', 'blocked', 'began'])
    expect(Math.hypot(none.frames.at(-1)![0].x - 25, none.frames.at(-1)![0].y - 10)).toBeLessThan(0.6)
  })

  it('gets on in a crowd: who has stood aside goes on to where it was going', () => {
    const level = told([newStep('wander', { zoneId: 'zn_a', pause: { minS: 0, maxS: 0 }, limitS: 600 })], {
      spawners: {
        sp_a: { name: 'Gate', at: [33, 33, 0], profileId: 'pf_warden', briefId: 'br_a', count: 60, everyS: 1 },
      },
    } as never)
    const { events, frames } = story(level, 240)
    expect(events.filter((e) => e.kind === 'stood-aside').length).toBeGreaterThan(0)
    const anew = events.filter((e) => e.kind === 'planned-anew')
    expect(anew.length).toBeGreaterThan(0)
    expect(anew.every((e) => e.b === 1)).toBe(true)
    expect(events.some((e) => e.kind === 'gave-up')).toBe(false)
    // In the last minute every one of them has gone somewhere.
    const before = frames.at(-600)!
    for (const q of frames.at(-1)!) {
      const then = before.find((r) => r.key === q.key)!
      const far = Math.max(
        ...frames
          .slice(-600)
          .map((rows) => rows.find((r) => r.key === q.key)!)
          .map((r) => Math.hypot(r.x - then.x, r.y - then.y)),
      )
      expect(far).toBeGreaterThan(1)
    }
  })

  it('draws from all floors over each other', () => {
    const level = told(
      [newStep('wander', { zoneId: 'zn_a', pause: { minS: 0, maxS: 0 } })],
      {
        passages: { pg_a: { name: 'Ladder', kind: 'ladder', from: [25, 40, 0], to: [31, 40, 3] } },
      } as never,
      { sd_d: { ...box(30, 30, 50, 50, 3), baseM: 2.7, heightM: 0.3, walkable: true } },
    )
    const { frames } = story(level, 1200)
    const heights = frames.map(([q]) => q.z)
    const up = heights.filter((z) => z > 2.5).length / heights.length
    expect(up).toBeGreaterThan(0.1)
    expect(up).toBeLessThan(0.9)
  })
})

describe('following', () => {
  it('ends after so many rounds, at the stop the round began at', () => {
    for (const [routeId, stops] of [
      ['rt_round', 7],
      ['rt_back', 9],
      // The last place of a round counts for the next one too.
      ['rt_any', 5],
    ] as const) {
      const { events, frames } = story(told([newStep('follow-route', { routeId, rounds: 2 }), newStep('pause')]), 150)
      expect(events.filter((e) => e.kind === 'reached').length, routeId).toBe(stops)
      expect(kindsOf(events).at(-1), routeId).toBe('finished')
      if (routeId !== 'rt_any') expect(Math.hypot(frames.at(-1)![0].x - 10, frames.at(-1)![0].y - 10)).toBeLessThan(0.7)
    }
  })

  it('ends at the first stop after its time', () => {
    const { events } = story(told([newStep('follow-route', { routeId: 'rt_round', forS: 30 }), newStep('pause')]), 90)
    const reached = events.filter((e) => e.kind === 'reached').map((e) => e.step / 30)
    expect(reached.at(-1)).toBeGreaterThanOrEqual(30)
    expect(reached.at(-2)).toBeLessThan(30)
    expect(events.filter((e) => e.kind === 'began')[1].step / 30).toBeCloseTo(reached.at(-1)!, 0)
  })
})

describe('a brief', () => {
  it('is begun again so many times, and ends by leaving', () => {
    const { events, frames } = story(
      told([
        newStep('go-to', { markerId: 'mk_a' }),
        newStep('pause', { forS: 2 }),
        newStep('again', { times: 2 }),
        newStep('leave'),
      ]),
      90,
    )
    expect(events.filter((e) => e.kind === 'began-again')).toHaveLength(2)
    expect(kindsOf(events).at(-1)).toBe('left')
    expect(events.at(-1)!.a).toBe(1)
    expect(frames.at(-1)).toEqual([])
  })

  it('of which nothing can be done is begun again once a second, not at every step', () => {
    const { events } = story(told([newStep('go-to'), newStep('follow-route'), newStep('again')]), 20)
    const again = events.filter((e) => e.kind === 'began-again').length
    expect(again).toBeGreaterThan(15)
    expect(again).toBeLessThan(21)
  })

  it('that begins with itself does not hang', () => {
    expect(story(told([newStep('again')]), 20).events.length).toBeLessThan(60)
  })

  it('of whatever steps goes on for a long time without a fall, and every step ends, fails or is waited out', () => {
    const step = fc.oneof(
      fc
        .record({ zoneId: fc.constantFrom('zn_a', null), forS: fc.constantFrom(null, 10) })
        .map((m) => newStep('wander', m)),
      fc
        .record({
          routeId: fc.constantFrom('rt_round', 'rt_back', 'rt_any', null),
          rounds: fc.constantFrom(null, 1),
          forS: fc.constantFrom(null, 15),
        })
        .map((m) => newStep('follow-route', m)),
      fc.constantFrom('mk_a', null).map((markerId) => newStep('go-to', { markerId })),
      fc.integer({ min: 0, max: 9 }).map((forS) => newStep('pause', { forS })),
      fc.constantFrom(null, 3).map((times) => newStep('again', { times })),
      fc.constant(newStep('leave')),
    )
    fc.assert(
      fc.property(fc.array(step, { maxLength: 5 }), (steps) => {
        const { frames, run } = story(told(steps), 300)
        for (const rows of frames) for (const q of rows) expect(Number.isFinite(q.x + q.y + q.z + q.speed)).toBe(true)
        // Who is told of nothing that goes on without end has come to the end, or to a step that failed as the last.
        const endless = steps.some((s) => !STEP_KINDS.find((k) => k.kind === s.kind)!.ends(s as never))
        const { world } = run.engine
        if (!endless && world.count > 0 && world.key[0] !== 0)
          expect(['done', 'blocked']).toContain(STATES[world.state[0]])
        expect(run.engine.events.list.length).toBeLessThan(5000)
      }),
      { numRuns: 20 },
    )
  })
})
