import { applyPatch, movePlaces, removeThings, setThings, type Level, type PatchOp } from '@tidytrail/core/level'
import { smallLevel } from '@tidytrail/core/testing'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Fold, History } from './history'

const put = (path: string, value: unknown): PatchOp => ({ op: 'replace', path, value })
const entry = (label: string, path: string, from: unknown, to: unknown, gesture?: string) => ({
  label,
  patch: [put(path, to)],
  inverse: [put(path, from)],
  gesture,
  at: 0,
})

describe('the history', () => {
  it('goes back and forth one step at a time', () => {
    const history = new History()
    history.push(entry('first', '/name', 'a', 'b'))
    history.push(entry('second', '/name', 'b', 'c'))
    expect(history.undo()?.label).toBe('second')
    expect(history.undo()?.label).toBe('first')
    expect(history.undo()).toBeUndefined()
    expect(history.redo()?.label).toBe('first')
    expect(history.past.map((e) => e.label)).toEqual(['first'])
    expect(history.future.map((e) => e.label)).toEqual(['second'])
  })

  it('forgets what was undone once something new is done', () => {
    const history = new History()
    history.push(entry('first', '/name', 'a', 'b'))
    history.undo()
    history.push(entry('other', '/name', 'a', 'z'))
    expect(history.redo()).toBeUndefined()
  })

  it('makes one step of a whole drag, which leads from its first place to its last', () => {
    const history = new History()
    for (let k = 0; k < 100; k++) history.push(entry('drag', '/waypoints/wp_a/at', [k, 0, 0], [k + 1, 0, 0], 'drag-1'))
    history.push(entry('drag', '/waypoints/wp_a/at', [100, 0, 0], [5, 0, 0], 'drag-2'))
    expect(history.past).toHaveLength(2)
    const [first] = history.past
    expect(first.patch).toEqual([put('/waypoints/wp_a/at', [100, 0, 0])])
    expect(first.inverse.at(-1)).toEqual(put('/waypoints/wp_a/at', [0, 0, 0]))
  })

  it('keeps so many steps and no more', () => {
    const history = new History()
    for (let k = 0; k < 700; k++) history.push(entry(`${k}`, '/name', k, k + 1))
    expect(history.past).toHaveLength(500)
    expect(history.past[0].label).toBe('200')
  })
})

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
