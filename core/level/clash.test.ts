import fc from 'fast-check'
import { expect, it } from 'vitest'
import { clashesOf, patchesTouch, placesTouch, type PatchOp } from '.'

const set = (path: string, value: unknown): PatchOp => ({ op: 'replace', path, value })
const gone = (path: string): PatchOp => ({ op: 'remove', path })

it('tells what each side would have at the deepest place both write', () => {
  expect(clashesOf([set('/a/b', { c: 1, d: 2 })], [set('/a/b/c', 9)])).toEqual([{ path: '/a/b/c', mine: 1, theirs: 9 }])
  expect(clashesOf([set('/a/b/c', 9)], [set('/a/b', { c: 1 })])).toEqual([{ path: '/a/b/c', mine: 9, theirs: 1 }])
  expect(clashesOf([gone('/waypoints/wp_a')], [set('/waypoints/wp_a/name', 'x')])).toEqual([
    { path: '/waypoints/wp_a/name', mine: undefined, theirs: 'x' },
  ])
  expect(clashesOf([set('/a', 1)], [set('/b', 2)])).toEqual([])
  expect(clashesOf([set('/ab', 1)], [set('/a', 2)])).toEqual([])
})

it('tells when one refers to what the other takes out', () => {
  const link: PatchOp = { op: 'add', path: '/links/ln_a', value: { fromId: 'wp_a', toId: 'wp_b' } }
  expect(clashesOf([link], [gone('/waypoints/wp_b')])).toEqual([
    { path: '/links/ln_a/toId', mine: 'wp_b', theirs: undefined },
  ])
  expect(clashesOf([gone('/waypoints/wp_a')], [link])).toEqual([
    { path: '/links/ln_a/fromId', mine: undefined, theirs: 'wp_a' },
  ])
  expect(clashesOf([link], [gone('/waypoints/wp_c')])).toEqual([])
})

it('agrees with comparing every place with every other', () => {
  const path = fc.array(fc.constantFrom('a', 'b', 'ab'), { minLength: 1, maxLength: 4 }).map((k) => `/${k.join('/')}`)
  const patch = fc.array(
    path.map((p) => set(p, 1)),
    { maxLength: 6 },
  )
  fc.assert(
    fc.property(patch, patch, (a, b) => {
      const slow = a.some((x) => b.some((y) => placesTouch(x.path, y.path)))
      expect(patchesTouch(a, b)).toBe(slow)
      expect(clashesOf(a, b).length > 0).toBe(slow)
    }),
    { numRuns: 2_000 },
  )
})
