import { describe, expect, it } from 'vitest'
import { changeThings, levelSchema, type Level, type LevelInput } from '@tidytrail/core/level'
import { recordedOf } from '@tidytrail/core/rehearsal'
import { crossroads, driven, framesOf, settled, WAGON, withLanes, withStreams } from '@tidytrail/core/testing'
import { laneNet, steadyFlowPerH, usualPhases } from '@tidytrail/core/traffic'
import { trafficFigures } from '.'

const counted = (level: Level, counters: LevelInput['counters']): Level => levelSchema.parse({ ...level, counters })
const found = (level: Level, seconds: number) => {
  const run = driven(level, seconds)
  return { run, figures: trafficFigures(recordedOf(run)) }
}
const lane = (toX: number): Level =>
  withLanes({
    a: [
      [20, 100, 0],
      [toX, 100, 0],
    ],
  })

describe('a counter', () => {
  it('counts all who pass it, as a look at every frame does, at the speed they pass with', () => {
    const level = counted(withStreams(lane(320), { perH: 700, warm: false }), {
      ct_a: { name: 'A', laneId: 'rt_a', atM: 150, everyS: 30 },
    })
    const { run, figures } = found(level, 200)
    const { ct_a } = figures.counters
    const passed = new Set<number>()
    for (const rows of framesOf(run)) for (const r of rows) if (r.x >= 170) passed.add(r.key)
    expect(ct_a.count).toBe(passed.size)
    expect(ct_a.count).toBeGreaterThan(25)
    expect(ct_a.spans).toHaveLength(6)
    expect(ct_a.spans.reduce((sum, s) => sum + s.count, 0)).toBeLessThanOrEqual(ct_a.count)
    for (const s of ct_a.spans) expect(s.perH).toBeCloseTo(s.count * 120, 6)
    // Flow is density times the speed over the road.
    expect(ct_a.perH).toBeCloseTo(ct_a.perKm * ct_a.spaceMps * 3.6, 6)
    expect(ct_a.spaceMps).toBeLessThanOrEqual(ct_a.mps + 1e-9)
    expect(ct_a.headways.reduce((a, b) => a + b, 0)).toBe(ct_a.count - 1)
  })

  it('round a ring at rest with itself has the flow and the density of the model', () => {
    const radiusM = 60
    const corners = 48
    const places = Array.from({ length: corners }, (_, k): [number, number, number] => {
      const rad = (2 * Math.PI * k) / corners
      return [200 + radiusM * Math.cos(rad), 200 + radiusM * Math.sin(rad), 0]
    })
    const bare = withLanes({ o: places })
    const round = levelSchema.parse({
      ...bare,
      routes: { rt_o: { ...bare.routes.rt_o, travel: 'round', curve: 'smooth' } },
    })
    const profile = { ...WAGON, gaits: { drive: 12 }, headwayS: 1.2 }
    const stream = { laneIds: ['rt_o'], perH: 1500, headways: 'even' as const, mostAlive: 18, warm: false }
    const level = counted(withStreams(round, stream, profile), {
      ct_a: { name: 'A', laneId: 'rt_o', atM: 100, everyS: 100, toId: 'ct_b' },
      ct_b: { name: 'B', laneId: 'rt_o', atM: 200 },
      ct_c: { name: 'At the seam', laneId: 'rt_o', atM: 0, everyS: 100 },
    })
    const { figures } = found(level, 500)
    const lengthM = laneNet(level).lanes.get('rt_o')!.line.lengthM
    const last = figures.counters.ct_a.spans.at(-1)!
    const perKm = (1000 * 18) / lengthM
    // The speed at which 18 of two metres, each at its steady gap, fill the ring.
    let mps = 0
    while (lengthM / 18 - 2 > (2 + 1.2 * mps) / Math.sqrt(1 - (mps / 12) ** 4)) mps += 0.001
    const driver = { wishMps: 12, accelMps2: WAGON.accelMps2, brakeMps2: 2, gapM: 2, headwayS: 1.2 }
    const told = steadyFlowPerH(driver, mps, 2)
    expect(last.spaceMps / mps).toBeGreaterThan(0.99)
    expect(last.spaceMps / mps).toBeLessThan(1.01)
    expect(Math.abs(last.perKm / perKm - 1)).toBeLessThan(0.03)
    expect(Math.abs(last.perH / told - 1)).toBeLessThan(0.03)
    // At the place where the lane begins and ends as many pass as anywhere.
    expect(Math.abs(figures.counters.ct_c.spans.at(-1)!.count - last.count)).toBeLessThanOrEqual(1)
    // A hundred metres at that speed.
    const { travel, curve } = figures.counters.ct_a
    expect(travel!.count).toBeGreaterThan(100)
    expect(Math.abs(travel!.medianS - 100 / mps)).toBeLessThan(0.2)
    // And it lies on the model's own curve.
    const near = curve.reduce((a, b) => (Math.abs(b.perKm - perKm) < Math.abs(a.perKm - perKm) ? b : a))
    expect(Math.abs(near.perH / last.perH - 1)).toBeLessThan(0.08)
  })

  it('of no lane, and one nobody passes, tells nothing', () => {
    const level = counted(withStreams(lane(120), { perH: 0.1, warm: false }), {
      ct_a: { name: 'Far', laneId: 'rt_a', atM: 5000 },
      ct_b: { name: 'Nowhere' },
    })
    // Nobody has come to the end of the lane as yet, where one beyond it lies.
    const { counters } = found(level, 5).figures
    expect(Object.keys(counters)).toEqual(['ct_a'])
    expect(counters.ct_a).toMatchObject({
      count: 0,
      perH: 0,
      mps: 0,
      perKm: 0,
      headwayS: 0,
      travel: undefined,
      curve: [],
    })
  })
})

describe('queues', () => {
  const lit = changeThings.apply(crossroads(), {
    in: 'junctions',
    changes: { jn_0: { control: 'signals' as const } },
  }).level
  const phases = usualPhases(lit, laneNet(lit), lit.junctions.jn_0)
  const bare = changeThings.apply(lit, { in: 'junctions', changes: { jn_0: { phases } } }).level
  const level = withStreams(settled(bare), { perH: 250 })
  const { run, figures } = found(level, 600)

  it('at signals are told by approach, with the time that is lost', () => {
    expect(figures.approaches).toHaveLength(4)
    for (const { count, stopped, meanS, p95S, queueMost, queueMean, perH } of figures.approaches) {
      // As many came as the stream sends, within three times the spread of a count over ten minutes.
      expect(Math.abs(perH - 250)).toBeLessThan(3 * 6 * Math.sqrt(250 / 6))
      expect(count).toBeGreaterThan(15)
      expect(stopped).toBeLessThanOrEqual(count)
      expect(stopped).toBeGreaterThan(0)
      expect(p95S).toBeGreaterThanOrEqual(meanS)
      expect(queueMost).toBeGreaterThan(0)
      expect(queueMean).toBeLessThan(queueMost)
    }
  })

  it('lose about as much as Webster says of uniform delay, and what braking and setting off cost', () => {
    const cycle = phases.reduce((sum, p) => sum + p.greenS + p.amberS + p.allRedS, 0)
    const green = phases[0].greenS / cycle
    const y = 250 / 1900
    // Webster (1958), the first term: c (1 − λ)² / 2 (1 − y).
    const uniformS = (cycle * (1 - green) ** 2) / (2 * (1 - y))
    const meanS = figures.approaches.reduce((sum, a) => sum + a.meanS, 0) / 4
    expect(meanS).toBeGreaterThan(0.8 * uniformS)
    expect(meanS).toBeLessThan(1.8 * uniformS + 4)
  })

  it('are where most time is lost, and the signal is why', () => {
    const [worst] = figures.slowest
    expect(level.routes[worst.laneId]).toBeDefined()
    expect(['signal', 'queue', 'give-way']).toContain(worst.causes[0].limit)
    expect(worst.causes.reduce((sum, c) => sum + c.share, 0)).toBeCloseTo(1, 6)
    expect(worst.lostS).toBeGreaterThan(60)
    // The same time, added up from every frame by hand.
    const { line } = laneNet(level).lanes.get(worst.laneId)!
    const [x0, y0] = line.places[0]
    const endM = Math.min(worst.toM, line.lengthM)
    let lost = 0
    for (const rows of framesOf(run))
      for (const r of rows) {
        const m = Math.hypot(r.x - x0, r.y - y0)
        const on = Math.abs(r.x - x0) < 0.5 || Math.abs(r.y - y0) < 0.5
        if (on && m >= worst.fromM && m <= endM && r.speed / 10 < 0.8) lost += 0.1 * (1 - r.speed / 10)
      }
    expect(Math.abs(lost / worst.lostS - 1)).toBeLessThan(0.05)
  })
})
