import { describe, expect, it } from 'vitest'
import { blankLevel, levelSchema, newStep, WARDEN, type Level, type Profile } from '@tidytrail/core/level'
import { collisionsIn, driven, framesOf, WAGON, withLanes, withStreams, type Row } from '@tidytrail/core/testing'

const CAR: Profile = { ...WAGON, radiusM: 1, gaits: { drive: 12 }, headwayS: 1.2, keepsM: 2 }

/** A lane round a circle with so many wagons sent onto it. */
function ringOf(count: number, radiusM: number): Level {
  const corners = 48
  const places = Array.from({ length: corners }, (_, k): [number, number, number] => {
    const rad = (2 * Math.PI * k) / corners
    return [200 + radiusM * Math.cos(rad), 200 + radiusM * Math.sin(rad), 0]
  })
  const level = withLanes({ o: places })
  const route = { ...level.routes.rt_o, travel: 'round', curve: 'smooth' }
  const bound = levelSchema.parse({ ...level, routes: { rt_o: route }, profiles: { pf_w: CAR } })
  return withStreams(bound, { laneIds: ['rt_o'], perH: 1500, headways: 'even', mostAlive: count, warm: false }, CAR)
}

/** Gap in front of each of a frame, round a circle about (200, 200), metres; and its speed. */
function gapsIn(rows: readonly Row[], radiusM: number) {
  const at = rows.map((r) => ({ rad: Math.atan2(r.y - 200, r.x - 200), speed: r.speed }))
  at.sort((p, q) => p.rad - q.rad)
  return at.map(({ rad, speed }, k) => {
    const next = k + 1 < at.length ? at[k + 1].rad : at[0].rad + 2 * Math.PI
    return { speed, gap: (next - rad) * radiusM - 2 * CAR.radiusM }
  })
}

describe('those who drive along one lane', () => {
  it.each([16, 22])(
    'settle at the gap the intelligent driver model gives for their speed: %i of them round a ring',
    (count) => {
      const radiusM = 60
      const frames = framesOf(driven(ringOf(count, radiusM), 400))
      const gaps = gapsIn(frames.at(-1)!, radiusM)
      expect(gaps).toHaveLength(count)
      for (const { gap, speed } of gaps) {
        // Treiber, Hennecke and Helbing (2000), steady state.
        const told = (CAR.keepsM + CAR.headwayS * speed) / Math.sqrt(1 - (speed / 12) ** 4)
        expect(gap / told).toBeGreaterThan(0.99)
        expect(gap / told).toBeLessThan(1.01)
      }
      const mean = gaps.reduce((sum, g) => sum + g.speed, 0) / count
      for (const { speed } of gaps) expect(Math.abs(speed - mean)).toBeLessThan(0.02 * mean + 0.02)
    },
  )

  it('stop behind somebody who stands in the lane, keep apart from each other, and go on once he is gone', () => {
    const narrow = { settings: blankLevel('Narrow', 340, 120).settings }
    const lane = withLanes({ a: [[20, 100, 0], [320, 100, 0]] }, narrow) // prettier-ignore
    const bare = { ...lane, routes: { rt_a: { ...lane.routes.rt_a, atEnd: 'leave' as const } } }
    const streams = withStreams(bare, { perH: 500, warm: false }, CAR)
    const walker = { ...WARDEN, name: 'Walker' }
    const level = levelSchema.parse({
      ...streams,
      profiles: { ...streams.profiles, pf_on: walker },
      briefs: {
        br_on: {
          name: 'Stands about',
          steps: { bs_1: newStep('pause', { forS: 60 }), bs_2: newStep('leave') },
          order: ['bs_1', 'bs_2'],
        },
      },
      spawners: {
        ...streams.spawners,
        sp_on: { name: 'Walker', at: [200, 100, 0], profileId: 'pf_on', briefId: 'br_on' },
      },
    })
    const run = driven(level, 150)
    expect(collisionsIn(run)).toEqual([])
    const frames = framesOf(run)
    const cars = (t: number) => frames[t * 10].filter((r) => r.x !== 200 || r.y !== 100)
    // While he stands there nobody is beyond, and the first stands close behind him.
    expect(Math.max(...cars(58).map((r) => r.x))).toBeLessThan(199)
    expect(Math.max(...cars(58).map((r) => r.x))).toBeGreaterThan(190)
    expect(cars(58).filter((r) => r.speed < 0.1).length).toBeGreaterThan(2)
    expect(frames.slice(700).some((rows) => rows.some((r) => r.x > 310 && r.speed > 9))).toBe(true)
  })
})
