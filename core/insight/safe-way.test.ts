import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bestPlan, earliestPlan, farthest, safeStarts, type Plan, type SafeGrid } from '.'

interface Made {
  seen: boolean[][]
  waits: boolean[]
  quickest: number
  slower: number
  loud: number[][]
  hears: boolean
}

/** Loudness by pace: standing is quietest, full pace loudest. */
const loudness = (pace: number, quickest: number) => (pace === 0 ? 1 : 1 + (4 * quickest) / pace)

function gridOf({ seen, waits, quickest, slower, loud, hears }: Made): SafeGrid {
  const steps = seen[0].length
  return {
    places: seen.length,
    steps,
    slack: seen.map((row) =>
      row.map((_, k) => {
        for (let d = 0; d < steps; d++) if (row[k - d] || row[k + d]) return d
        return 1000
      }),
    ),
    waits: (p) => waits[p],
    quickest,
    slowest: quickest + slower,
    ...(hears && { heard: (p: number, k: number, pace: number) => loud[p][k] <= loudness(pace, quickest) }),
  }
}

/** Everything one can do from somewhere at some time, tried one after the other: where the end is reached, and when. */
function search(grid: SafeGrid, start: number, least = 0): number[] {
  const ends = new Set<number>()
  const been = new Set<string>()
  const free = (p: number, k: number) => k < grid.steps && grid.slack[p][k] > least
  const go = (p: number, k: number) => {
    if (!free(p, k) || been.has(`${p} ${k}`)) return
    been.add(`${p} ${k}`)
    if (p === grid.places - 1) ends.add(k)
    if (p > 0 && grid.waits(p) && grid.heard?.(p, k, 0) !== true) go(p, k + 1)
    if (p === grid.places - 1) return
    for (let pace = grid.quickest; pace <= grid.slowest; pace++) {
      let fine = true
      for (let q = 0; q < pace; q++) if (!free(p, k + q) || grid.heard?.(p, k + q, pace) === true) fine = false
      if (fine) go(p + 1, k + pace)
    }
  }
  go(0, start)
  return [...ends]
}

const made: fc.Arbitrary<Made> = fc
  .record({ places: fc.integer({ min: 2, max: 6 }), steps: fc.integer({ min: 3, max: 14 }) })
  .chain(({ places, steps }) => {
    const rows = <T>(of: fc.Arbitrary<T>) =>
      fc.array(fc.array(of, { minLength: steps, maxLength: steps }), { minLength: places, maxLength: places })
    return fc.record({
      seen: rows(fc.integer({ min: 0, max: 9 }).map((n) => n < 3)),
      waits: fc.array(fc.boolean(), { minLength: places, maxLength: places }),
      quickest: fc.integer({ min: 1, max: 2 }),
      slower: fc.integer({ min: 0, max: 2 }),
      loud: rows(fc.integer({ min: 0, max: 8 })),
      hears: fc.boolean(),
    })
  })

/** Is every step of a plan one that may be taken? */
function holds(grid: SafeGrid, plan: Plan): void {
  let [p, k] = [0, plan.start]
  for (const move of plan.moves) {
    expect([move.fromPlace, move.fromStep]).toEqual([p, k])
    const places = move.toPlace - move.fromPlace
    const pace = places === 0 ? 0 : (move.toStep - move.fromStep) / places
    if (places === 0) expect(grid.waits(p)).toBe(true)
    else {
      expect(pace).toBeGreaterThanOrEqual(grid.quickest)
      expect(pace).toBeLessThanOrEqual(grid.slowest)
    }
    for (let at = move.fromStep; at < move.toStep; at++) {
      const place = places === 0 ? p : p + Math.floor((at - k) / pace)
      expect(grid.slack[place][at]).toBeGreaterThanOrEqual(plan.slack)
      expect(grid.heard?.(place, at, pace) ?? false).toBe(false)
    }
    ;[p, k] = [move.toPlace, move.toStep]
  }
  expect([p, k]).toEqual([grid.places - 1, plan.end])
  expect(grid.slack[p][k]).toBeGreaterThanOrEqual(plan.slack)
  expect(plan.slack).toBeGreaterThan(0)
}

describe('a safe way in place and time', () => {
  it('can be set out on whenever trying everything finds one, and never else', () => {
    fc.assert(
      fc.property(made, (of) => {
        const grid = gridOf(of)
        const slow = Array.from({ length: grid.steps }, (_, k) => (search(grid, k).length > 0 ? 1 : 0))
        expect([...safeStarts(grid)]).toEqual(slow)
      }),
      { numRuns: 600 },
    )
  })

  it('of most slack has as much as any has, is through first, and breaks no rule', () => {
    fc.assert(
      fc.property(made, (of) => {
        const grid = gridOf(of)
        const starts = Array.from({ length: grid.steps }, (_, k) => k)
        const ends = (least: number) => starts.flatMap((k) => search(grid, k, least))
        const best = bestPlan(grid)
        const first = earliestPlan(grid)
        const far = farthest(grid)
        if (ends(0).length === 0) {
          expect([best, first]).toEqual([undefined, undefined])
          expect(far?.place ?? -1).toBeLessThan(grid.places - 1)
          return
        }
        holds(grid, best!)
        holds(grid, first!)
        expect(first!.start).toBe(starts.find((k) => search(grid, k).length > 0))
        // No plan has more slack all along, and none of as much is through sooner.
        expect(ends(best!.slack)).toEqual([])
        expect(best!.end).toBe(Math.min(...ends(best!.slack - 1)))
        expect(far).toMatchObject({ place: grid.places - 1 })
      }),
      { numRuns: 400 },
    )
  })
})
