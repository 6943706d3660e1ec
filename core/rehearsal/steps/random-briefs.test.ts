import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { newStep, newWhen, type BriefStep } from '@tidytrail/core/level'
import { at, briefOf, castLevel, framesOf, rehearsed } from '@tidytrail/core/testing'
import { STATE } from '../world'

describe('a brief of whatever steps and sentences', () => {
  const failed = fc.constantFrom('next', 'again', 'give-up') as fc.Arbitrary<'next'>
  const zoneId = fc.constantFrom('zn_w', 'zn_e', null)
  const step: fc.Arbitrary<BriefStep> = fc.oneof(
    fc.record({ zoneId, failed, forS: fc.constantFrom(null, 8) }).map((m) => newStep('wander', m)),
    fc
      .record({
        routeId: fc.constantFrom('rt_a', 'rt_b', null),
        failed,
        from: fc.constantFrom('start', 'stop', 'line') as fc.Arbitrary<'stop'>,
      })
      .map((m) => newStep('follow-route', { ...m, others: [{ routeId: 'rt_b', weight: 1 }], rounds: 1 })),
    fc
      .record({ to: fc.constantFrom('marker', 'post', 'zone') as fc.Arbitrary<'post'>, failed, zoneId })
      .map((m) => newStep('go-to', { ...m, markerId: 'mk_a', postId: 'ps_a' })),
    fc.record({ failed, forS: fc.integer({ min: 0, max: 6 }) }).map((m) => newStep('pause', m)),
    fc
      .record({ failed, forS: fc.constantFrom(null, 12) })
      .map((m) => newStep('guard', { ...m, to: 'post', postId: 'ps_a' })),
    fc.record({ zoneId, failed, forS: fc.constantFrom(null, 12) }).map((m) => newStep('hold', { ...m, turnS: 5 })),
    fc.record({ failed, spawnerId: fc.constantFrom('sp_b', null) }).map((m) => newStep('shadow', { ...m, forS: 9 })),
    failed.map((f) => newStep('chase', { failed: f, loseS: 2, forS: 10 })),
    failed.map((f) => newStep('search', { failed: f, forS: 5 })),
    failed.map((f) => newStep('board', { failed: f, spawnerId: 'sp_c' })),
    fc
      .record({ failed, waitS: fc.constantFrom(null, 4) })
      .map((m) => newStep('use-object', { ...m, markerId: 'mk_a' })),
    fc.constant(newStep('get-out')),
    fc.constantFrom(null, 2).map((times) => newStep('again', { times })),
    fc.constant(newStep('leave')),
  )
  const when = fc.constantFrom(
    newWhen('sees', 'bw_a'),
    newWhen('hears', 'bw_a', { whom: 'anyone' }),
    newWhen('touched', 'bw_a', { after: 'next' }),
    newWhen('blocked', 'bw_a', { forS: 2, after: 'again' }),
    newWhen('left', 'bw_a'),
    newWhen('zone-entered', 'bw_a', { zoneId: 'zn_w', once: true }),
    newWhen('time', 'bw_a', { afterS: 7 }),
  )
  const run = (
    steps: BriefStep[],
    whens: { when: ReturnType<typeof newWhen>; steps: BriefStep[] }[],
    seconds: number,
    seed: number,
  ) => {
    const level = castLevel({
      posts: {
        ps_a: { name: 'P', at: [20, 20, 0], zoneId: 'zn_w' },
        ps_b: { name: 'Q', at: [8, 8, 0], zoneId: 'zn_w' },
      },
      squads: { sq_a: { name: 'S', zoneId: 'zn_w' } },
      briefs: { br_a: briefOf(steps, whens), br_b: briefOf([newStep('wander', { zoneId: 'zn_w' })]) },
      spawners: {
        sp_a: at(30, 30, { briefId: 'br_a', factionId: 'fc_w', squadId: 'sq_a', count: 3, everyS: 2, alive: 'keep' }),
        sp_b: at(15, 40, { briefId: 'br_b', factionId: 'fc_n', standIn: true }),
        sp_c: at(35, 25, { profileId: 'pf_cart', factionId: 'fc_w' }),
      },
    })
    return rehearsed(level, seconds, seed)
  }

  it('goes on without a fall, keeps its feet on the floor, and never fills the record with itself', () => {
    fc.assert(
      fc.property(
        fc.array(step, { minLength: 1, maxLength: 5 }),
        fc.array(fc.record({ when, steps: fc.array(step, { maxLength: 3 }) }), { maxLength: 1 }),
        (steps, whens) => {
          const seconds = 120
          const one = run(steps, whens, seconds, 1)
          for (const rows of framesOf(one))
            for (const q of rows) {
              expect(Number.isFinite(q.x + q.y + q.z + q.speed + q.heading)).toBe(true)
              expect(q.x > -0.1 && q.x < 80.1 && q.y > -0.1 && q.y < 60.1).toBe(true)
            }
          // Three agents, a word a second each at most, and what comes of being begun.
          expect(one.engine.events.list.length).toBeLessThan(seconds * 60)
          const alive = one.engine.world
          for (let n = 0; n < alive.count; n++) {
            // Nobody waits for what has no end: whoever stands has a time until which, or is through.
            if (alive.key[n] === 0 || alive.state[n] !== STATE.pausing) continue
            expect(Number.isFinite(alive.until[n]) || alive.due[n] > 0).toBe(true)
          }
        },
      ),
      { numRuns: Number(process.env.TIDYTRAIL_RANDOM_BRIEFS ?? 15) },
    )
  }, 600_000)

  it('is the same to the last bit when it is gone back in and gone on with', () => {
    const steps = [
      newStep('hold', { zoneId: 'zn_w', turnS: 4, forS: 15 }),
      newStep('board', { spawnerId: 'sp_c' }),
      newStep('follow-route', { routeId: 'rt_b', rounds: 1 }),
      newStep('get-out'),
      newStep('again'),
    ]
    const made = run(
      steps,
      [
        {
          when: newWhen('sees', 'bw_a'),
          steps: [newStep('chase', { loseS: 2, forS: 6 }), newStep('search', { forS: 4 })],
        },
      ],
      60,
      3,
    )
    const { hash } = made
    for (const t of [41.3, 12, 55]) {
      made.backTo(t)
      made.runTo(60)
      expect(made.hash).toBe(hash)
    }
  })
})
