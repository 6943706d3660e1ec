import { smallLevel } from '@tidytrail/core/testing'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyPatch, Fold, movePlaces, removeThings, setThings, type Level, type PatchOp } from '.'

const put = (path: string, value: unknown): PatchOp => ({ op: 'replace', path, value })

describe('the changes of a gesture', () => {
  const foldOf = (steps: readonly (readonly [PatchOp[], PatchOp[]])[]) => {
    const fold = new Fold()
    for (const [patch, inverse] of steps) fold.add(patch, inverse)
    return fold
  }

  it('keep the last value of each place, and the first on the way back', () => {
    const fold = foldOf([
      [
        [put('/a', 1), put('/b', 1)],
        [put('/b', 0), put('/a', 0)],
      ],
      [[put('/a', 2)], [put('/a', 1)]],
    ])
    expect(fold.patch).toEqual([put('/a', 2), put('/b', 1)])
    expect(fold.inverse).toEqual([put('/b', 0), put('/a', 0)])
  })

  it('do not grow with the moves of the hand', () => {
    const places = Array.from({ length: 2000 }, (_, k) => `/waypoints/wp_${k}/at`)
    const fold = foldOf(
      Array.from({ length: 40 }, (_, move) => [places.map((p) => put(p, move + 1)), places.map((p) => put(p, move))]),
    )
    expect(fold.patch).toHaveLength(2000)
    expect(fold.inverse).toHaveLength(2000)
    expect(fold.inverse.every((op) => op.op === 'replace' && op.value === 0)).toBe(true)
  })

  it('lead to the same level and back, whatever they are', () => {
    const start = smallLevel()
    const edit = fc.oneof(
      fc.tuple(fc.constantFrom('wp_a', 'wp_b'), fc.nat(50)).map(
        ([id, x]) =>
          (l: Level) =>
            movePlaces.apply(l, { places: { [id]: [x, 0, 0] } }),
      ),
      fc
        .string({ maxLength: 4 })
        .map((name) => (l: Level) => setThings.apply(l, { things: [{ in: 'waypoints', id: 'wp_a', set: { name } }] })),
      fc.constant((l: Level) => removeThings.apply(l, { ids: ['wp_b'] })),
    )
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 12 }), (edits) => {
        const fold = new Fold()
        let level = start
        for (const make of edits) {
          const result = make(level)
          fold.add(result.patch, result.inverse)
          level = result.level
        }
        expect(applyPatch(start, fold.patch)).toEqual(level)
        expect(applyPatch(level, fold.inverse)).toEqual(start)
      }),
    )
  })
})
