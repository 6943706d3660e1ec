import fc from 'fast-check'
import jsonPatch, { type Operation } from 'fast-json-patch'
import { describe, expect, it } from 'vitest'
import { applyPatch, blankLevel, listOps, placeBothTouch, writtenPath, type Level, type PatchOp } from '.'
import { keysOf } from './keys'

const letters = fc.array(fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f'), { maxLength: 14 })
const copy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

describe('the operations that make one list another', () => {
  it('do so, as a well-known patch library applies them too, and back', () => {
    fc.assert(
      fc.property(letters, letters, (before, after) => {
        const ops = listOps('/list', before, after)
        const { newDocument } = jsonPatch.applyPatch({ list: [...before] }, copy(ops) as Operation[], true)
        expect(newDocument).toEqual({ list: after })
      }),
      { numRuns: 500 },
    )
  })

  it('are few where little has changed in a long list, and the list itself where most has', () => {
    const long = Array.from({ length: 1000 }, (_, k) => `st_${k}`)
    const added = [...long.slice(0, 500), 'st_new', ...long.slice(500)]
    expect(listOps('/l', long, added)).toEqual([{ op: 'add', path: '/l/500', value: 'st_new' }])
    expect(listOps('/l', added, long)).toEqual([{ op: 'remove', path: '/l/500' }])
    expect(listOps('/l', long, [...long].reverse())).toMatchObject([{ op: 'replace', path: '/l' }])
    expect(listOps('/l', long, [...long])).toEqual([])
  })
})

describe('a patch on the page', () => {
  const level = (): Level => ({
    ...blankLevel('Patched'),
    markers: Object.fromEntries(
      Array.from({ length: 200 }, (_, k) => [
        `mk_${k}`,
        { name: `${k}`, at: [k, 0, 0], kind: 'place', note: '', tags: [], locked: false, hidden: false },
      ]),
    ),
  })
  const id = fc.integer({ min: 0, max: 220 }).map((k) => `mk_${k}`)
  const op = fc.oneof(
    fc.tuple(id, fc.string()).map(([k, value]): PatchOp => ({ op: 'replace', path: `/markers/${k}/name`, value })),
    id.map((k): PatchOp => ({ op: 'remove', path: `/markers/${k}` })),
    id.map((k): PatchOp => ({ op: 'add', path: `/markers/${k}`, value: { name: 'new' } })),
    fc.tuple(id, fc.string()).map(([k, value]): PatchOp => ({ op: 'add', path: `/markers/${k}/tags/-`, value })),
  )

  it('gives what a well-known patch library gives, or is refused where that refuses it', () => {
    fc.assert(
      fc.property(fc.array(op, { maxLength: 8 }), (ops) => {
        const start = level()
        const before = copy(start)
        let expected: unknown
        try {
          expected = jsonPatch.applyPatch(copy(start), copy(ops) as Operation[], true).newDocument
        } catch {
          expect(() => applyPatch(start, ops)).toThrow()
          expect(start).toEqual(before)
          return
        }
        const now = applyPatch(start, ops)
        expect(now).toEqual(expected)
        expect(start).toEqual(before)
        // The kept list of keys is that of the record, whatever came and went.
        expect([...keysOf(now.markers)].sort()).toEqual(Object.keys(now.markers).sort())
      }),
      { numRuns: 300 },
    )
  })

  it('leaves all it does not touch as it is', () => {
    const start = level()
    const now = applyPatch(start, [{ op: 'replace', path: '/markers/mk_3/name', value: 'x' }])
    expect(now.markers.mk_4).toBe(start.markers.mk_4)
    expect(now.settings).toBe(start.settings)
    expect(now.markers.mk_3).not.toBe(start.markers.mk_3)
    expect(now.markers.mk_3.at).toBe(start.markers.mk_3.at)
  })
})

describe('what a patch writes', () => {
  it('is the list as a whole when something comes into it or leaves it', () => {
    expect(writtenPath({ op: 'add', path: '/routes/rt_a/order/5' })).toBe('/routes/rt_a/order')
    expect(writtenPath({ op: 'remove', path: '/routes/rt_a/order/0' })).toBe('/routes/rt_a/order')
    expect(writtenPath({ op: 'replace', path: '/ground/heights/rows/7' })).toBe('/ground/heights/rows/7')
    expect(writtenPath({ op: 'add', path: '/waypoints/wp_a' })).toBe('/waypoints/wp_a')
  })

  it('clashes when two put something into the same list, not when each changes a row of its own', () => {
    const add = (k: number): PatchOp[] => [{ op: 'add', path: `/routes/rt_a/order/${k}`, value: 's' }]
    const row = (k: number): PatchOp[] => [{ op: 'replace', path: `/ground/heights/rows/${k}`, value: [1] }]
    expect(placeBothTouch(add(1), add(9))).toBe('/routes/rt_a/order')
    expect(placeBothTouch(row(1), row(9))).toBeUndefined()
    expect(placeBothTouch(row(1), row(1))).toBe('/ground/heights/rows/1')
  })
})
