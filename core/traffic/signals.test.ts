import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { phaseSchema } from '@tidytrail/core/level'
import { clearsInS, cycleS, lightAt, uniformDelayS, untilGreenS, watchNeededM, websterPlan } from '.'

const phase = (linkIds: string[], greenS = 20) => phaseSchema.parse({ greenS, amberS: 3, allRedS: 2, linkIds })
const plan = { offsetS: 10, phases: [phase(['ln_a', 'ln_b']), phase(['ln_b', 'ln_c'], 15)] }

describe('a signal plan', () => {
  it('shows green, amber and red in turn, from its offset on, before it as well', () => {
    expect(cycleS(plan)).toBe(45)
    expect([10, 29.9, 30, 32.9, 33, 54.9, 55].map((t) => lightAt(plan, 'ln_a', t))).toEqual([
      'green',
      'green',
      'amber',
      'amber',
      'red',
      'red',
      'green',
    ])
    expect(lightAt(plan, 'ln_a', 10 - 45)).toBe('green')
    expect(lightAt(plan, 'ln_c', 9.9)).toBe('red')
    expect(lightAt(plan, 'ln_c', 36)).toBe('green')
  })

  it('keeps green for who goes on with it in the next stage', () => {
    for (let t = 10; t < 60; t += 0.5) expect(lightAt(plan, 'ln_b', t)).toBe('green')
    const three = { ...plan, phases: [...plan.phases, phase(['ln_a'])] }
    for (let t = 10; t < 50; t += 0.5) expect(lightAt(three, 'ln_b', t)).toBe('green')
    expect(lightAt(three, 'ln_b', 51)).toBe('amber')
  })

  it('shows red for ever to who has no green, and to all without a cycle', () => {
    expect(lightAt(plan, 'ln_x', 12)).toBe('red')
    expect(untilGreenS(plan, 'ln_x', 12)).toBe(Infinity)
    const none = { offsetS: 0, phases: [] }
    const zero = { offsetS: 3, phases: [phaseSchema.parse({ greenS: 0, amberS: 0, allRedS: 0, linkIds: ['ln_a'] })] }
    for (const p of [none, zero]) {
      expect(lightAt(p, 'ln_a', 5)).toBe('red')
      expect(untilGreenS(p, 'ln_a', 5)).toBe(Infinity)
    }
  })

  it('tells when green comes: then it is, and not before', () => {
    fc.assert(
      fc.property(fc.double({ min: -200, max: 200, noNaN: true }), fc.constantFrom('ln_a', 'ln_b', 'ln_c'), (t, id) => {
        const s = untilGreenS(plan, id, t)
        expect(s).toBeLessThanOrEqual(cycleS(plan))
        expect(lightAt(plan, id, t + s + 1e-6)).toBe('green')
        if (s > 0.01) expect(lightAt(plan, id, t + s - 0.005)).not.toBe('green')
      }),
    )
  })
})

describe('a suggested plan', () => {
  it('has the cycle and greens Webster gives', () => {
    // Two stages, lost 5 s each, flow ratios 0.3 and 0.25: C = (1.5 · 10 + 5) / 0.45 = 44.4 s.
    const made = websterPlan(
      [
        { phase: 0, flowPerH: 540, saturationPerH: 1800 },
        { phase: 0, flowPerH: 200, saturationPerH: 1800 },
        { phase: 1, flowPerH: 450, saturationPerH: 1800 },
      ],
      [5, 5],
    )
    expect(made.cycleS).toBeCloseTo(44.444, 2)
    expect(made.greenS[0] / made.greenS[1]).toBeCloseTo(0.3 / 0.25, 6)
    expect(made.load).toBeCloseTo(0.55, 9)
  })

  it('delays less than cycles that are shorter or longer', () => {
    const delay = (cycle: number) => {
      const green = cycle - 10
      const [g1, g2] = [(green * 0.3) / 0.55, (green * 0.25) / 0.55]
      // Webster's two terms, each weighed by its flow.
      const d = (g: number, q: number) => {
        const x = q / 3600 / ((g / cycle) * 0.5)
        return x >= 1 ? Infinity : uniformDelayS(cycle, g, q, 1800) + (x * x) / ((2 * q) / 3600) / (1 - x)
      }
      return (540 * d(g1, 540) + 450 * d(g2, 450)) / 990
    }
    const { cycleS: best } = websterPlan(
      [
        { phase: 0, flowPerH: 540, saturationPerH: 1800 },
        { phase: 1, flowPerH: 450, saturationPerH: 1800 },
      ],
      [5, 5],
    )
    for (const other of [0.75 * best, 1.5 * best, 2 * best]) expect(delay(best)).toBeLessThan(delay(other) * 1.1)
    expect(delay(best)).toBeLessThan(delay(2 * best))
  })

  it('is no longer than it may be, however much comes, and serves stages nobody asked for', () => {
    const full = websterPlan([{ phase: 0, flowPerH: 2000, saturationPerH: 1800 }], [5, 5])
    expect(full.load).toBeGreaterThan(1)
    expect(full.cycleS).toBeLessThanOrEqual(126)
    for (const s of full.greenS) expect(s).toBeGreaterThanOrEqual(5)
    expect(websterPlan([], [4, 4]).greenS[0]).toBeCloseTo(11, 6)
  })
})

describe('what has to be watched', () => {
  it('is what comes in the time a body needs from its line until it is out of the conflict', () => {
    const turner = { lengthM: 4, accelMps2: 2, topMps: 8 }
    // 12 m at 2 m/s²: √12 s; 60 m: 4 s to 8 m/s over 16 m, the rest at that.
    expect(clearsInS(8, turner)).toBeCloseTo(Math.sqrt(12), 9)
    expect(clearsInS(56, turner)).toBeCloseTo(4 + 44 / 8, 9)
    expect(watchNeededM(8, turner, 14)).toBeCloseTo(14 * (2 + Math.sqrt(12)), 9)
  })
})
