import { levelSchema, type Level } from '@tidytrail/core/level'
import { LegPlanner } from '@tidytrail/core/network'
import { buildReach, reachSource } from '@tidytrail/core/reach'
import { sceneLevel } from '@tidytrail/core/testing'
import { describe, expect, it } from 'vitest'
import { judge } from './judge'
import { Rehearsal } from './rehearsal'

/** One walker there and back over thirty metres, with limits that can be set. */
function level(limits: object = {}): Level {
  const base = sceneLevel(60, 40, {})
  return levelSchema.parse({
    ...base,
    settings: { ...base.settings, limits: { ...base.settings.limits, ...limits } },
    waypoints: { wp_a: { at: [10, 10, 0] }, wp_b: { at: [40, 10, 0] } },
    routes: {
      rt_a: {
        name: 'Beat',
        travel: 'there-and-back',
        stops: { st_a: { waypointId: 'wp_a' }, st_b: { waypointId: 'wp_b' } },
        order: ['st_a', 'st_b'],
      },
    },
    briefs: { br_a: { name: 'B', steps: { bs_a: { kind: 'follow-route', routeId: 'rt_a' } }, order: ['bs_a'] } },
    spawners: { sp_a: { name: 'Gate', at: [10, 10, 0], profileId: 'pf_warden', briefId: 'br_a' } },
  })
}
function rehearsed(of: Level, seconds = 60): Rehearsal {
  const planner = new LegPlanner(buildReach(reachSource(of, 'pf_warden')))
  const rehearsal = new Rehearsal(of, 1, () => planner)
  rehearsal.runTo(seconds)
  return rehearsal
}
/** Measures as they would be of somebody who strays by so much. */
const straying = (p95: number) => ({ crossTrack: () => ({ rms: p95 / 2, p95, max: p95 }) }) as never

describe('the verdict on a walker', () => {
  it('is that it follows when it strays, sticks and tarries less than is worth a remark', () => {
    const [verdict] = judge(rehearsed(level()).world, straying(0.1))
    expect(verdict).toMatchObject({ verdict: 'follows', reasons: [] })
    expect(verdict.stops.made).toBeGreaterThan(1)
  })

  it('is with remarks when it strays more than the first limit, and not at all beyond the second', () => {
    const { world } = rehearsed(level({ crossTrackM: { remark: 0.5, fail: 2 } }))
    expect(judge(world, straying(0.8))[0]).toMatchObject({
      verdict: 'follows-with-remarks',
      reasons: ['strays 0.80 m from its line (95th percentile)'],
    })
    expect(judge(world, straying(2.5))[0].verdict).toBe('does-not-follow')
    // Exactly at a limit is still within it.
    expect(judge(world, straying(0.5))[0].verdict).toBe('follows')
  })

  it.each([
    [4, 'follows-with-remarks', 'stuck for 4.0 s'],
    [11, 'does-not-follow', 'stuck for 11.0 s'],
    [2, 'follows', undefined],
  ])('is by how long it was stuck: %i s', (stuckS, word, reason) => {
    const { world } = rehearsed(level({ stuckS: { remark: 3, fail: 10 } }))
    world.longestStuckS[0] = stuckS
    const [verdict] = judge(world, straying(0))
    expect(verdict.verdict).toBe(word)
    expect(verdict.reasons).toEqual(reason ? [reason] : [])
    expect(verdict.longestStuckS).toBe(stuckS)
  })

  it('tells why it is late when legs take longer than its gait would', () => {
    const { world } = rehearsed(level())
    const agent = world.agents[0]
    for (const made of agent.made) Object.assign(made, { tookS: made.expectedS * 1.5 + 3 })
    const [verdict] = judge(world, straying(0))
    expect(verdict.verdict).toBe('follows-with-remarks')
    expect(verdict.reasons[0]).toMatch(/^takes \d+ % longer than expected at its gait$/)
  })

  it('is that it does not follow when it has fallen behind by more than a stop', () => {
    const { world } = rehearsed(level(), 120)
    const agent = world.agents[0]
    agent.made.splice(1)
    const [verdict] = judge(world, straying(0))
    expect(verdict.verdict).toBe('does-not-follow')
    expect(verdict.reasons[0]).toMatch(/^\d+ stops behind$/)
  })

  it('is none for somebody who has not appeared, or has nothing to follow', () => {
    const late = level()
    const waiting = { ...late, spawners: { sp_a: { ...late.spawners.sp_a, firstAfterS: 500 } } }
    expect(judge(rehearsed(waiting).world, straying(0))[0]).toMatchObject({
      verdict: 'not-tried',
      reasons: ['it appears only after 500.0 s'],
    })
    const idle = { ...late, spawners: { sp_a: { ...late.spawners.sp_a, briefId: null } } }
    expect(judge(rehearsed(idle).world, straying(0))[0].verdict).toBe('not-tried')
  })
})
