import fc from 'fast-check'
import { expect, it } from 'vitest'
import { heard, ListTeller } from './list-news'

const members = Array.from({ length: 12 }, (_, n) => ({ n }))
const list = fc.uniqueArray(fc.integer({ min: 0, max: 11 })).map((ns) => ns.map((n) => members[n]))

it('tells lists one after the other so that they are heard as they are, with the members that stay', () => {
  fc.assert(
    fc.property(fc.array(list), (lists) => {
      const teller = new ListTeller<{ n: number }>()
      let now: readonly { n: number }[] = []
      for (const next of lists) {
        const before = new Set(now)
        const news = teller.news(next)
        const heardNow = heard(now, structuredClone(news))
        expect(heardNow).toEqual(next)
        const come = news.filter((entry) => !Array.isArray(entry)).length
        expect(heardNow.filter((member) => !before.has(member))).toHaveLength(come)
        now = heardNow
      }
    }),
  )
})

it('tells of one that is other in a long list, and of nothing else', () => {
  const teller = new ListTeller<{ n: number }>()
  const long = Array.from({ length: 1000 }, (_, n) => ({ n }))
  teller.news(long)
  const changed = { n: -1 }
  expect(teller.news([...long.slice(0, 400), changed, ...long.slice(401)])).toEqual([[0, 400], changed, [401, 599]])
})

it('hears the very list it knows when nothing is other', () => {
  const known = [...members]
  expect(heard(known, [[0, known.length]])).toBe(known)
})
