import type { PatchOp } from '@tidytrail/core/level'
import { describe, expect, it } from 'vitest'
import { History } from './history'

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
