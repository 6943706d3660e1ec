import { coverAt } from '@tidytrail/core/ground'
import { expect, it } from 'vitest'
import {
  applyPatch,
  blankLevel,
  byRank,
  coverSchema,
  readLevelText,
  restack,
  topRank,
  writeLevelText,
  type Level,
} from '..'

const ring: [number, number][] = [
  [10, 10],
  [50, 10],
  [50, 50],
  [10, 50],
]
const cover = (kind: string, rank = 0) => coverSchema.parse({ name: kind, kind, ring, rank })
/** Three covers over one another, in an order of keys that a saved level would not have. */
const level = (): Level => ({
  ...blankLevel('Covers'),
  covers: { cv_z: cover('mud'), cv_a: cover('road'), cv_m: cover('grass') },
})
const top = (l: Level) => coverAt(l.covers, 20, 20)?.kind

it('the cover that wins is the same before and after a level is saved and read', () => {
  const here = level()
  expect(top(here)).toBe('mud')
  expect(top(readLevelText(writeLevelText(here)))).toBe('mud')
})

it('bringing one forward or back changes which wins, keeps the others in order, and can be undone', () => {
  let now = level()
  const forward = restack.apply(now, { in: 'covers', id: 'cv_a', how: 'forward' })
  expect(byRank(forward.level.covers).map(([id]) => id)).toEqual(['cv_m', 'cv_a', 'cv_z'])
  now = restack.apply(forward.level, { in: 'covers', id: 'cv_a', how: 'forward' }).level
  expect(top(now)).toBe('road')
  expect(top(readLevelText(writeLevelText(now)))).toBe('road')
  expect(applyPatch(forward.level, forward.inverse)).toEqual(level())
  const back = restack.apply(now, { in: 'covers', id: 'cv_a', how: 'back' })
  expect(top(back.level)).toBe('mud')
})

it('bringing the topmost forward does nothing', () => {
  expect(restack.apply(level(), { in: 'covers', id: 'cv_z', how: 'forward' }).patch).toEqual([])
})

it('a new cover goes over all others', () => {
  const { covers } = level()
  expect(topRank({})).toBe(0)
  expect(topRank(covers)).toBe(1)
  const painted = { ...covers, cv_0: cover('road', topRank(covers)) }
  expect(coverAt(painted, 20, 20)?.kind).toBe('road')
})
