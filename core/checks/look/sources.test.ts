import { COLLECTIONS } from '@tidytrail/core/level'
import { RELATIONS } from '@tidytrail/core/survey'
import fc from 'fast-check'
import { expect, it } from 'vitest'
import { SourceSet, type Source } from './sources'

const SOURCES: readonly Source[] = [...RELATIONS, 'reach', 'settings', ...COLLECTIONS]
const some = fc.uniqueArray(fc.constantFrom(...SOURCES), { maxLength: 8 })
const setOf = (list: readonly Source[]) => list.reduce((set: SourceSet, s) => set.with(s), SourceSet.NONE)

it('is one and the same object in whatever order it came about', () => {
  fc.assert(
    fc.property(some, (list) => {
      expect(setOf(list)).toBe(setOf([...list].reverse()))
    }),
  )
})

it('meets what is stale just when something is in both', () => {
  fc.assert(
    fc.property(some, some, (list, stale) => {
      const set = new Set(stale)
      expect(setOf(list).meets(set)).toBe(list.some((s) => set.has(s)))
      // Asked again, and about others in between.
      setOf(list).meets(new Set(SOURCES))
      expect(setOf(list).meets(set)).toBe(list.some((s) => set.has(s)))
    }),
  )
})

it('joins with another to what is in either', () => {
  fc.assert(
    fc.property(some, some, (a, b) => {
      expect(setOf(a).and(setOf(b))).toBe(setOf([...a, ...b]))
    }),
  )
})

it('holds more sources than an integer has bits', () => {
  const many = Array.from({ length: 80 }, (_, k) => `source${k}` as Source)
  const all = setOf(many)
  for (const source of many) expect(all.meets(new Set([source]))).toBe(true)
  expect(all.meets(new Set(['other' as Source]))).toBe(false)
})
