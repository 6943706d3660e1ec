import fc from 'fast-check'
import { changeThings, phaseSchema, type Level } from '@tidytrail/core/level'
import { signalledStreet } from '@tidytrail/core/testing'
import { describe, expect, it } from 'vitest'
import { bandOf, corridorOf, cycleS, greensOf, laneNet, lightAt, oneCycle, waveOf, waveOffsets, type Wave } from '.' // prettier-ignore

const MPS = 10
const street = (...at: number[]) => signalledStreet(at, MPS)
const waveIn = (level: Level): Wave => {
  const wave = waveOf(level, laneNet(level), level.roads.rd_m0.lanes.find((l) => l.key === 'a1')!.laneId!)
  if ('why' in wave) throw new Error(wave.why)
  return wave
}
const withOffsets = (level: Level, offsets: Record<string, number>) =>
  changeThings.apply(level, { in: 'junctions', changes: Object.fromEntries(Object.entries(offsets).map(([id, offsetS]) => [id, { offsetS }])) }).level // prettier-ignore

describe('a corridor', () => {
  const level = street(150, 300, 420)
  const net = laneNet(level)
  it('leads straight on through all signals, from whichever of its lanes it is asked for', () => {
    const ids = ['m0', 'm1', 'm2', 'm3'].map((r) => level.roads[`rd_${r}`].lanes.find((l) => l.key === 'a1')!.laneId!)
    for (const id of ids) {
      const { laneIds, signals, lengthM } = corridorOf(level, net, id)
      expect(laneIds).toEqual(ids)
      expect(signals.map((s) => Math.round(s.atM))).toEqual([89, 239, 359])
      for (const s of signals) expect(s.atS).toBeCloseTo(s.atM / MPS, 1)
      expect(lengthM).toBeCloseTo(470, 0)
    }
  })

  it('has a way back through the same junctions in the other order', () => {
    const { out, back } = waveIn(level)
    expect(back!.signals.map((s) => s.junctionId)).toEqual(out.signals.map((s) => s.junctionId).reverse())
    expect(back!.laneIds[0]).toBe(level.roads.rd_m3.lanes.find((l) => l.key === 'b1')!.laneId)
  })
})

describe('a band', () => {
  const spans = fc
    .tuple(fc.integer({ min: 0, max: 39 }), fc.integer({ min: 2, max: 30 }))
    .map(([from, long]): [number, number][] =>
      from + long <= 40 ? [[from, from + long]] : [[0, from + long - 40], [from, 40]]) // prettier-ignore

  it('is as wide as the longest run of departures that meet green everywhere, tried one by one', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(spans, fc.integer({ min: 0, max: 99 })), { minLength: 1, maxLength: 5 }), (all) => {
        const goes = Array.from({ length: 40 }, (_, t) => all.every(([g, after]) => g.some(([from, to]) => (t + 0.5 + after) % 40 > from && (t + 0.5 + after) % 40 < to))) // prettier-ignore
        let longest = 0
        for (let t = 0; t < 40; t++) {
          let run = 0
          while (run < 40 && goes[(t + run) % 40]) run++
          longest = Math.max(longest, run)
        }
        const band = bandOf(
          all.map(([g]) => g),
          all.map(([, after]) => after),
          40,
        )
        expect(band.widthS).toBeCloseTo(longest, 6)
        if (longest > 0) expect(goes[Math.floor(band.fromS + 0.25) % 40]).toBe(true)
      }),
    )
  })

  it('has the greens of its plan, wherever that begins', () => {
    fc.assert(
      fc.property(fc.double({ min: -200, max: 200, noNaN: true }), (offsetS) => {
        const phases = [phaseSchema.parse({ greenS: 20, amberS: 3, allRedS: 2, linkIds: ['ln_a'] }), phaseSchema.parse({ greenS: 12, amberS: 3, allRedS: 1 })] // prettier-ignore
        const plan = { phases, offsetS }
        const found = greensOf(plan, 'ln_a')
        expect(found.reduce((sum, [from, to]) => sum + to - from, 0)).toBeCloseTo(20, 6)
        for (const [from, to] of found) expect(lightAt(plan, 'ln_a', (from + to) / 2)).toBe('green')
      }),
    )
  })
})

describe('offsets', () => {
  it('for one way let through whoever meets the shortest green', () => {
    const level = street(150, 290, 470, 610)
    const wave = waveIn(level)
    const shortest = Math.min(...wave.out.signals.map((s) => greensOf(level.junctions[s.junctionId], s.wayId).reduce((sum, [a, b]) => sum + b - a, 0))) // prettier-ignore
    const after = waveIn(withOffsets(level, waveOffsets(level, wave, false)))
    // Whole seconds: each of the others may be half a second early or late.
    expect(after.bands.out.widthS).toBeGreaterThan(shortest - 1.001)
    expect(after.bands.out.widthS).toBeLessThanOrEqual(shortest + 1e-6)
    expect(wave.bands.out.widthS).toBeLessThan(after.bands.out.widthS)
  })

  it.each([100, 160, 230])('for both ways of two signals %i m apart are as good as geometry lets them', (far) => {
    const level = street(150, 150 + far)
    const wave = waveIn(level)
    const { cycleS: cycle } = wave
    const green = greensOf(level.junctions[wave.out.signals[0].junctionId], wave.out.signals[0].wayId).reduce((sum, [a, b]) => sum + b - a, 0) // prettier-ignore
    // Out they are to be apart by the time between, back by as much the other way: what both miss together is twice
    // that time round the cycle (Little 1966), unless one way is given up for the other.
    const [t, u] = [wave.out, wave.back!].map(({ signals }) => signals[1].atS - signals[0].atS)
    const missed = Math.abs(t + u - cycle * Math.round((t + u) / cycle))
    // Shared evenly, and the narrower counted once more.
    const most = Math.max(1.5 * (2 * green - missed), green)
    const { bands } = waveIn(withOffsets(level, waveOffsets(level, wave, true)))
    const sum = bands.out.widthS + bands.back!.widthS + Math.min(bands.out.widthS, bands.back!.widthS)
    expect(sum).toBeGreaterThan(most - 3.001)
    expect(sum).toBeLessThanOrEqual(most + 1e-6)
  })

  it('for both ways of three signals are as good as any that are tried', () => {
    const level = street(150, 260, 430)
    const wave = waveIn(level)
    const ids = wave.out.signals.map((s) => s.junctionId)
    const sumOf = (offsets: Record<string, number>) => {
      const { bands } = waveIn(withOffsets(level, offsets))
      return bands.out.widthS + bands.back!.widthS + Math.min(bands.out.widthS, bands.back!.widthS)
    }
    const found = sumOf(waveOffsets(level, wave, true))
    let best = 0
    for (let a = 0; a < wave.cycleS; a += 2)
      for (let b = 0; b < wave.cycleS; b += 2) best = Math.max(best, sumOf({ [ids[0]]: 0, [ids[1]]: a, [ids[2]]: b }))
    expect(found).toBeGreaterThanOrEqual(best - 1e-6)
  })

  it('are none where cycles differ, until they are made one', () => {
    const level = street(150, 300)
    const [id] = Object.keys(level.junctions)
    const phases = level.junctions[id].phases.map((p) => ({ ...p, greenS: p.greenS + 5 }))
    const other = changeThings.apply(level, { in: 'junctions', changes: { [id]: { phases } } }).level
    const laneId = other.roads.rd_m0.lanes[0].laneId!
    const why = waveOf(other, laneNet(other), laneId)
    expect(why).toEqual({ why: expect.stringMatching(/^Their cycles differ: /) })
    const changes = oneCycle(other, corridorOf(other, laneNet(other), laneId))
    const one = changeThings.apply(other, { in: 'junctions', changes }).level
    expect('why' in waveOf(one, laneNet(one), laneId)).toBe(false)
    for (const j of Object.values(one.junctions)) expect(cycleS(j)).toBeCloseTo(cycleS(other.junctions[id]), 2)
    expect(waveOf(level, laneNet(level), level.roads.rd_n0.lanes[0].laneId!)).toEqual({ why: 'Fewer than two signals lie along this way.' }) // prettier-ignore
  })
})
