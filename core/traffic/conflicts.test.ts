import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { turningLine, type Point3 } from '@tidytrail/core/geometry'
import { conflictsOf, measured } from '.'

const line = (...places: [number, number][]) => measured(places.map(([x, y]): Point3 => [x, y, 0]))

/** Slow and obvious: every place of both lines, a centimetre apart. */
function sampled(a: ReturnType<typeof measured>, b: ReturnType<typeof measured>, apartM: number, stepM: number) {
  const walk = (l: typeof a) => {
    const places: [number, number, number][] = []
    for (let k = 1; k < l.places.length; k++) {
      const [p, q] = [l.places[k - 1], l.places[k]]
      const length = Math.hypot(q[0] - p[0], q[1] - p[1])
      for (let m = 0; m < length; m += stepM)
        places.push([p[0] + ((q[0] - p[0]) * m) / length, p[1] + ((q[1] - p[1]) * m) / length, l.s[k - 1] + m])
    }
    return places
  }
  const [pa, pb] = [walk(a), walk(b)]
  return pa.filter(([x, y]) => pb.some((q) => Math.hypot(q[0] - x, q[1] - y) < apartM)).map((p) => p[2])
}

describe('conflicts of two ways', () => {
  it('of two that cross at right angles are as long as both are wide', () => {
    const [one] = conflictsOf(line([0, 0], [40, 0]), line([20, -20], [20, 20]), 2)
    expect(one.kind).toBe('crossing')
    expect(one.a.fromM).toBeCloseTo(18, 3)
    expect(one.a.toM).toBeCloseTo(22, 3)
    expect(one.b.fromM).toBeCloseTo(18, 3)
    expect(one.at).toEqual([20, 0, 0])
  })

  it('of two that cross at a slant are longer: the distance over the sine of the angle', () => {
    for (const rad of [0.2, 0.5, 1, 1.3]) {
      const [c, s] = [Math.cos(rad), Math.sin(rad)]
      const [one] = conflictsOf(line([-50, 0], [50, 0]), line([-50 * c, -50 * s], [50 * c, 50 * s]), 2)
      expect((one.a.toM - one.a.fromM) / 2).toBeCloseTo(2 / s, 2)
    }
  })

  it('are none where ways keep apart, beside or over each other', () => {
    expect(conflictsOf(line([0, 0], [40, 0]), line([40, 2.01], [0, 2.01]), 2)).toEqual([])
    const over = measured([
      [20, -20, 3],
      [20, 20, 3],
    ])
    expect(conflictsOf(line([0, 0], [40, 0]), over, 2)).toEqual([])
  })

  it('tell merging and parting from crossing', () => {
    const merge = conflictsOf(line([0, 0], [30, 0]), line([0, 20], [30, 0]), 2)
    expect(merge.map((c) => c.kind)).toEqual(['merging'])
    expect(merge[0].a.toM).toBe(30)
    expect(conflictsOf(line([0, 0], [30, 0]), line([0, 0], [30, 20]), 2).map((c) => c.kind)).toEqual(['parting'])
  })

  it('are two where ways meet twice', () => {
    const twice = conflictsOf(line([0, 0], [60, 0]), line([10, -10], [20, 10], [40, 10], [50, -10]), 1)
    expect(twice).toHaveLength(2)
    for (const { at } of twice) expect(at[1]).toBe(0)
  })

  it('are where walking along both finely finds them, on random turning ways', () => {
    const n = (min: number, max: number) => fc.double({ min, max, noNaN: true })
    const end = fc.record({ x: n(-20, 20), y: n(-20, 20), rad: n(-3, 3) })
    const way = fc
      .tuple(end, end)
      .map(([p, q]) => measured(turningLine({ at: [p.x, p.y, 0], rad: p.rad }, { at: [q.x, q.y, 0], rad: q.rad }, 2)))
    fc.assert(
      fc.property(way, way, n(1, 3), (a, b, apartM) => {
        fc.pre(a.lengthM > 2 && b.lengthM > 2 && a.lengthM < 80 && b.lengthM < 80)
        const found = conflictsOf(a, b, apartM)
        const near = sampled(a, b, apartM, 0.1)
        const inside = (m: number, slack: number) => found.some((c) => m > c.a.fromM - slack && m < c.a.toM + slack)
        for (const m of near) expect(inside(m, 0.02)).toBe(true)
        // And each span has such places, unless it is too short to be met.
        for (const c of found)
          if (c.a.toM - c.a.fromM > 0.5 && c.b.toM - c.b.fromM > 0.5)
            expect(near.some((m) => m >= c.a.fromM - 0.1 && m <= c.a.toM + 0.1)).toBe(true)
      }),
      { numRuns: 60 },
    )
  })
})
