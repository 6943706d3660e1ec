import { CheckedSurvey } from '@tidytrail/core/checks'
import { driveOn, levelSchema } from '@tidytrail/core/level'
import { collisionsIn, foundIn, framesOf, rehearsedOver } from '@tidytrail/core/testing'
import { laneNet, pairsOf, sidesChanged } from '@tidytrail/core/traffic'
import { describe, expect, it } from 'vitest'
import { DESIGN_PER_H, kettleCross } from './kettle-cross'

const left = kettleCross()
const sides = { left, right: driveOn.apply(left, sidesChanged(left)).level }

describe.each(['left', 'right'] as const)('Kettle Cross driven on the %s', (side) => {
  const level = sides[side]
  const survey = new CheckedSurvey()
  survey.update(level)

  it('has nothing wrong, and every conflict is settled', () => {
    expect(survey.findings).toEqual([])
    const net = laneNet(level)
    const pairs = Object.values(level.junctions).flatMap((j) => pairsOf(level, net, j))
    expect(pairs.length).toBeGreaterThan(30)
    expect(pairs.filter((p) => p.settled.by === 'nothing')).toEqual([])
  })

  it('runs five minutes of its flow without a collision, and all who came go on or have left', () => {
    const run = rehearsedOver(level, survey, 300)
    expect(collisionsIn(run)).toEqual([])
    expect(foundIn(run)).toEqual([])
    const { engine } = run
    const frames = framesOf(run)
    // The lanes at the edge of the town each have their flow; nobody waits outside.
    expect([...engine.world.by.owed].every((n) => n === 0)).toBe(true)
    const lanes = level.spawners.sp_traffic.laneIds.length
    const wheels = engine.members.filter((m) => m.spawnerId === 'sp_traffic').length
    const told = (lanes * DESIGN_PER_H) / 12
    // Those under way at the beginning come on top.
    expect(wheels).toBeGreaterThan(told - 3 * Math.sqrt(told))
    expect(wheels).toBeLessThan(1.8 * told + 3 * Math.sqrt(told))
    // No vehicle stands for longer than two rounds of the lights.
    const stood = new Map<number, { since: number; longest: number }>()
    frames.forEach((rows, f) => {
      for (const r of rows) {
        const was = stood.get(r.key) ?? { since: f, longest: 0 }
        if (r.speed > 0.1) was.since = f
        was.longest = Math.max(was.longest, (f - was.since) / 10)
        stood.set(r.key, was)
      }
    })
    const cycle = level.junctions.jn_cross0.phases.reduce((sum, p) => sum + p.greenS + p.amberS + p.allRedS, 0)
    expect(Math.max(...[...stood.values()].map((s) => s.longest))).toBeLessThan(2 * cycle)
  })
})

it('lets nobody who goes round the ring to its exit be run into by one who comes in', () => {
  const survey = new CheckedSurvey()
  survey.update(left)
  // With this luck one came in just as another on the ring had made up its mind about its exit.
  const run = rehearsedOver({ ...left, settings: { ...left.settings, seed: 23 } }, survey, 420)
  expect(collisionsIn(run)).toEqual([])
})

it.each(['left', 'right'] as const)(
  'nobody who goes round the ring has to brake for one who comes in, driven on the %s',
  (side) => {
    const base = sides[side]
    const stream = (name: string, laneId: string, to: string, profileId: string, firstAfterS: number) => ({ name, at: [8, 132, 0], where: 'lanes', laneIds: [laneId], bound: [{ laneId: to, share: 1 }], profileId, perH: 60, headways: 'even', warm: false, mostAlive: 1, firstAfterS }) // prettier-ignore
    const survey = new CheckedSurvey()
    const slowest: number[] = []
    // One goes all round, past the waypoint at which its course ends and another begins; the other comes in sooner or later.
    for (let afterS = 2; afterS <= 7; afterS += 0.5) {
      const sp_round = stream('Round', 'rt_bridgea1', 'rt_bridgeb1', 'pf_cart', 0)
      const sp_in = stream('In', 'rt_milla1', 'rt_marketa1', 'pf_tram', afterS)
      const level = levelSchema.parse({ ...base, counters: {}, spawners: { sp_round, sp_in } })
      // Where anybody can drive does not depend on when they come.
      if (slowest.length === 0) survey.update(level)
      const run = rehearsedOver(level, survey, 45)
      expect(collisionsIn(run)).toEqual([])
      const round = run.engine.members.find((m) => m.spawnerId === 'sp_round')!.key
      const onRing = framesOf(run).flat().filter((r) => r.key === round && Math.abs(Math.hypot(r.x - 236, r.y - 120) - 14) < 0.5) // prettier-ignore
      expect(onRing.length).toBeGreaterThan(80)
      slowest.push(Math.min(...onRing.map((r) => r.speed)))
    }
    // Behind one who came in before it goes a little more slowly.
    expect(Math.min(...slowest)).toBeGreaterThan(6.2)
  },
)
