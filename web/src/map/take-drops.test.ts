import { blankLevel, readLevel, setThings, stepsOf } from '@tidytrail/core/level'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it } from 'vitest'
import { useLevelStore } from '../stores/level'
import { useSheetStore } from '../stores/sheet'
import { giveRoute } from './take-drops'

const spawners = ['sp_a', 'sp_b', 'sp_c']
let levels: ReturnType<typeof useLevelStore>
beforeEach(() => {
  setActivePinia(createPinia())
  levels = useLevelStore()
  levels.level = readLevel({
    ...blankLevel('Yard'),
    waypoints: { wp_a: { at: [10, 10, 0] }, wp_b: { at: [30, 10, 0] } },
    routes: {
      rt_a: {
        name: 'Beat',
        stops: { st_a: { waypointId: 'wp_a' }, st_b: { waypointId: 'wp_b' } },
        order: ['st_a', 'st_b'],
      },
    },
    spawners: Object.fromEntries(spawners.map((id) => [id, { name: id, at: [5, 5, 0], profileId: 'pf_warden' }])),
  })
})
const give = (...ids: string[]) => giveRoute(levels, useSheetStore(), 'rt_a', ids)
/** The routes those of a spawner are told to follow. */
const followed = (id: string) => {
  const brief = levels.doc.briefs[levels.doc.spawners[id].briefId ?? '']
  return brief ? stepsOf(brief).map((s) => (brief.steps[s] as { routeId?: string }).routeId) : []
}

it('a route is given to several spawners as one step, each with a brief of its own', () => {
  give(...spawners)
  for (const id of spawners) expect(followed(id)).toEqual(['rt_a'])
  expect(new Set(spawners.map((id) => levels.doc.spawners[id].briefId)).size).toBe(3)
  expect(useSheetStore().selected).toEqual(spawners)
  expect(levels.steps.past.map((s) => s.label)).toEqual(['3 spawners follow Beat'])
  levels.undo()
  for (const id of spawners) expect(followed(id)).toEqual([])
  expect(levels.doc.briefs).toEqual({})
})

it('to none of them when one is locked, or when nobody is meant', () => {
  levels.perform(setThings, { things: [{ in: 'spawners', id: 'sp_b', set: { locked: true } }] })
  give(...spawners)
  for (const id of spawners) expect(followed(id)).toEqual([])
  give()
  expect(levels.doc.briefs).toEqual({})
  expect(useSheetStore().selected).toEqual([])
})
