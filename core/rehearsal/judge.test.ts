import { preset, rehearsed, travelLevel } from '@tidytrail/core/testing'
import type { Level } from '@tidytrail/core/level'
import { describe, expect, it } from 'vitest'
import { judge } from './judge'
import { CLASSES } from './world'

/** One walker there and back over thirty metres, with limits that can be set. */
function level(limits: object = {}): Level {
  const of = travelLevel(
    preset('Warden'),
    [
      [10, 10],
      [40, 10],
    ],
    { route: { travel: 'there-and-back' } },
  )
  return { ...of, settings: { ...of.settings, limits: { ...of.settings.limits, ...limits } } }
}
/** The engine after a minute, in which the only agent is told to have strayed by so much all the way. */
function straying(of: Level, m: number, seconds = 60) {
  const { engine } = rehearsed(of, seconds)
  const { world } = engine
  world.tally.fill(0, 0, CLASSES)
  // The class whose upper end is the first at or beyond it.
  let end = 0.02
  let k = 0
  for (; end < m && k < CLASSES - 1; k++) end *= 1.1
  world.tally[k] = world.samples[0]
  world.greatest[0] = m
  return engine
}

describe('the verdict on a walker', () => {
  it('is that it follows when it strays, sticks and tarries less than is worth a remark', () => {
    const [verdict] = judge(rehearsed(level(), 60).engine)
    expect(verdict).toMatchObject({ verdict: 'follows', reasons: [], overlapS: 0 })
    expect(verdict.stops.made).toBeGreaterThan(1)
  })

  it('is with remarks when it strays more than the first limit, and not at all beyond the second', () => {
    const of = level({ crossTrackM: { remark: 0.5, fail: 2 } })
    expect(judge(straying(of, 0.8))[0]).toMatchObject({
      verdict: 'follows-with-remarks',
      reasons: ['strays 0.80 m from its line (95th percentile)'],
    })
    expect(judge(straying(of, 2.5))[0].verdict).toBe('does-not-follow')
    // Exactly at a limit is still within it.
    expect(judge(straying(of, 0.5))[0].verdict).toBe('follows')
  })

  it.each([
    [4, 'follows-with-remarks', 'stuck for 4.0 s'],
    [11, 'does-not-follow', 'stuck for 11.0 s'],
    [2, 'follows', undefined],
  ])('is by how long it was stuck: %i s', (stuckS, word, reason) => {
    const { engine } = rehearsed(level({ stuckS: { remark: 3, fail: 10 } }), 60)
    engine.world.longestStuckS[0] = stuckS
    const [verdict] = judge(engine)
    expect(verdict.verdict).toBe(word)
    expect(verdict.reasons).toEqual(reason ? [reason] : [])
    expect(verdict.longestStuckS).toBe(stuckS)
  })

  it('tells why it is late when legs take longer than its gait would', () => {
    const { engine } = rehearsed(level(), 60)
    engine.world.tookS[0] = engine.world.expectedS[0] * 1.5 + 3
    const [verdict] = judge(engine)
    expect(verdict.verdict).toBe('follows-with-remarks')
    expect(verdict.reasons[0]).toMatch(/^takes \d+ % longer than expected at its gait$/)
  })

  it('is that it has fallen behind when the leg under way should long be over', () => {
    const { engine } = rehearsed(level(), 70)
    engine.world.legSince[0] = engine.t - 75
    const [verdict] = judge(engine)
    expect(verdict.verdict).toBe('does-not-follow')
    expect(verdict.reasons[0]).toMatch(/^\d+ stops behind$/)
    expect(verdict.stops.due - verdict.stops.made).toBeGreaterThan(1)
  })

  it('counts no stops as due over a leg that cannot be walked', () => {
    const of = travelLevel(
      preset('Warden'),
      [
        [10, 10],
        [40, 10],
      ],
      {
        solids: { sd_w: { shape: 'box', name: '', at: [25, 60], sizeX: 1, sizeY: 120, baseM: 0, heightM: 3 } as never },
        route: { travel: 'there-and-back' },
      },
    )
    const [verdict] = rehearsed(of, 200).verdicts()
    expect(verdict.stops).toEqual({ made: 1, missed: 0, due: 1 })
    expect(verdict.reasons.join()).not.toContain('behind')
  })

  it('says that a gait is lacking, and goes on at the usual one', () => {
    const of = travelLevel(
      preset('Warden'),
      [
        [10, 10],
        [40, 10],
      ],
      { stop: { 1: { gait: 'gallop' } } },
    )
    const run = rehearsed(of, 40)
    expect(run.verdicts()[0]).toMatchObject({
      verdict: 'follows-with-remarks',
      reasons: ['is asked for a gait it does not have, and goes at its usual one'],
    })
    expect(run.engine.events.list.map((e) => e.kind)).toContain('gait-missing')
  })

  it('holds a slower gait of one stop against nobody', () => {
    const slow = { ...preset('Warden'), gaits: { walk: 1.4, creep: 0.4 } }
    const of = travelLevel(
      slow,
      [
        [10, 10],
        [40, 10],
        [40, 40],
      ],
      { stop: { 1: { gait: 'creep' } } },
    )
    expect(rehearsed(of, 110).verdicts()[0]).toMatchObject({ verdict: 'follows', reasons: [] })
  })

  it('is not spoiled by a wide arrival radius: the next leg begins where one stands', () => {
    const of = travelLevel(
      preset('Warden'),
      [
        [10, 10],
        [40, 10],
        [40, 40],
      ],
      { stop: { 1: { arrivalRadiusM: 8 } } },
    )
    const [verdict] = rehearsed(of, 70).verdicts()
    expect(verdict).toMatchObject({ verdict: 'follows', reasons: [] })
    expect(verdict.crossTrack.max).toBeLessThan(0.6)
  })

  it('is none for somebody who has not appeared, or has nothing to follow', () => {
    const late = level()
    const waiting = { ...late, spawners: { sp_a: { ...late.spawners.sp_a, firstAfterS: 500 } } }
    expect(judge(rehearsed(waiting, 60).engine)[0]).toMatchObject({
      verdict: 'not-tried',
      reasons: ['it appears only after 500.0 s'],
    })
    const idle = { ...late, spawners: { sp_a: { ...late.spawners.sp_a, briefId: null } } }
    expect(judge(rehearsed(idle, 60).engine)[0].verdict).toBe('not-tried')
  })
})
