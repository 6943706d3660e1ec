import { describe, expect, it } from 'vitest'
import { levelSchema, type Level, type Profile } from '@tidytrail/core/level'
import { driven, framesOf, WAGON, withLanes, withStreams, type Row } from '@tidytrail/core/testing'

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
})
