import { expect, it } from 'vitest'
import { blankLevel, levelSchema, type Level, type Spawner } from '@tidytrail/core/level'
import { driven, framesOf, goneBackIn, WAGON, withLanes, withStreams } from '@tidytrail/core/testing'

const RADIUS_M = 25
const CORNERS = 12
const MPS = 8

/** A ring of smooth pieces, onto which somebody comes every three seconds until there are eight. */
function ring(speedLimitMps: number | null = null): Level {
  const places = Array.from({ length: CORNERS }, (_, k): [number, number, number] => {
    const rad = (2 * Math.PI * k) / CORNERS
    return [50 + RADIUS_M * Math.cos(rad), 50 + RADIUS_M * Math.sin(rad), 0]
  })
  const bare = withLanes({ a: places }, { settings: { ...blankLevel('Ring', 100, 100).settings, cellM: 1 } })
  const rt_a = { ...bare.routes.rt_a, travel: 'round', curve: 'smooth', speedLimitMps }
  const stream: Partial<Spawner> = { laneIds: ['rt_a'], perH: 1200, headways: 'even', untilS: 23, warm: false }
  return withStreams(levelSchema.parse({ ...bare, routes: { rt_a } }), stream, { ...WAGON, gaits: { drive: MPS } })
}

it('those on a lane go along it by courses they have in common, and none of them ever jumps or leaves it', () => {
  const run = driven(ring(), 120)
  const { world } = run.engine
  expect(world.count).toBe(8)
  // At any moment no two courses from the same stop on: as many at most as there are stops.
  const courses = new Set(world.courses.slice(0, world.count))
  const lasts = new Map([...courses].map((c) => [c!.marks.map((m) => m.stop).join(), c]))
  expect(lasts.size).toBe(courses.size)
  const before = new Map<number, { x: number; y: number }>()
  let most = 0
  for (const rows of framesOf(run))
    for (const { key, x, y } of rows) {
      // A smooth line through places on a circle lies within a hand of it.
      expect(Math.abs(Math.hypot(x - 50, y - 50) - RADIUS_M)).toBeLessThan(0.15)
      const was = before.get(key)
      if (was) most = Math.max(most, Math.hypot(x - was.x, y - was.y))
      before.set(key, { x, y })
    }
  // A tenth of a second at their speed, and the millimetre places are recorded to.
  expect(most).toBeLessThan(MPS / 10 + 0.003)
  expect(most).toBeGreaterThan(0.9 * (MPS / 10))
})

it('a leg that is joined on its way is expected to take only what is left of it', () => {
  const lane = withLanes({ a: [[10, 10, 0], [290, 10, 0]] }, { settings: { ...blankLevel('Lane', 300, 20).settings, cellM: 1 } }) // prettier-ignore
  // They are spread over the lane when it begins.
  const level = withStreams(lane, { laneIds: ['rt_a'], perH: 600, warm: true }, { ...WAGON, gaits: { drive: MPS } })
  const there = driven(level, 0).engine.members.map((m) => m.key)
  const legs = driven(level, 60).verdicts().flatMap((v) => (there.includes(v.key) ? [v.legs] : [])) // prettier-ignore
  expect(legs.length).toBeGreaterThan(3)
  expect(Math.min(...legs.map((l) => l.expectedS))).toBeLessThan(12)
  expect(Math.max(...legs.map((l) => l.expectedS))).toBeGreaterThan(20)
  for (const { tookS, expectedS } of legs) expect(Math.abs(tookS - expectedS)).toBeLessThan(4)
})

it('is the same from any moment on, whatever courses are kept by then', () => {
  const run = driven(ring(5), 60)
  const same = { hash: run.hash, verdicts: run.verdicts() }
  expect(goneBackIn(run, [31.7, 2, 48])).toEqual([same, same, same])
})
