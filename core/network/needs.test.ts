import { Survey } from '@tidytrail/core/survey'
import type { LevelInput } from '@tidytrail/core/level'
import { box, follower, withRoutes, type Place } from '@tidytrail/core/testing'
import { expect, it } from 'vitest'
import { islandNeeds } from '.'

const deck = { sd_deck: box(40, 20, 60, 40, 1, { walkable: true }) }
const at: Place[] = [
  [10, 30, 0],
  [50, 30, 1],
  [20, 30, 0],
]
const needsOf = (more: Partial<LevelInput>, passages = {}) => {
  const level = { ...withRoutes({ a: { at, travel: 'one-way' } }, more, deck), passages }
  const survey = new Survey()
  survey.update(level)
  return islandNeeds(level, survey.plannerFor('pf_warden')!, 'pf_warden')
}

it('a route that leads onto a deck and off again needs a way between the two, once', () => {
  expect(needsOf(follower('rt_a'))).toEqual([[0, 1]])
})

it('a spawner needs a way to where its route begins', () => {
  const { briefs, spawners } = follower('rt_a')
  expect(needsOf({ briefs, spawners: { sp_a: { ...spawners.sp_a, at: [45, 25, 1] } } })).toEqual([[0, 1]])
})

it('nothing is needed that passages do already, nor by whom the route is not for', () => {
  const ladder = {
    name: 'Ladder',
    kind: 'ladder' as const,
    from: [39, 30, 0] as Place,
    to: [41, 30, 1] as Place,
    takesS: 2,
    catchM: 0.6,
    state: 'open' as const,
    opensWhen: '',
    profileIds: [],
    nobody: false,
    note: '',
    tags: [],
    locked: false,
    hidden: false,
  }
  expect(needsOf(follower('rt_a'), { pg_a: { ...ladder, twoWay: true } })).toEqual([])
  // Up and never down again: the way back is still needed.
  expect(needsOf(follower('rt_a'), { pg_a: { ...ladder, twoWay: false } })).toEqual([[0, 1]])
})
