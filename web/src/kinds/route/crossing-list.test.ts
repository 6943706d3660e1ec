// @vitest-environment happy-dom
import { addAndSet, addThing, blankLevel, roadSchema, type Level } from '@tidytrail/core/level'
import { crossingOver } from '@tidytrail/core/traffic'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it } from 'vitest'
import { nextTick } from 'vue'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import { mounted } from '../../testing/mounted'
import CrossingList from './CrossingList.vue'

/** A street with one pavement, and a crossing over it. */
function street(): Level {
  const road = roadSchema.parse({ name: 'High Street', points: [[20, 40, 0], [100, 40, 0]], curve: 'straight', pavementLeftM: 2 }) // prettier-ignore
  const { level } = addThing.apply(blankLevel('Street'), { in: 'roads', id: 'rd_a', thing: road })
  const ids = { laneId: 'rt_x', fromId: 'wp_x', toId: 'wp_y' }
  return addAndSet.apply(level, { add: crossingOver(level, 'rd_a', 30, ids), set: [], label: 'Lay' }).level
}

beforeEach(() => {
  setActivePinia(createPinia())
  useLevelStore().level = street()
})

const buttonIn = (host: HTMLElement, name: string) =>
  [...host.querySelectorAll('button')].find((b) => b.textContent!.trim() === name)!

it('says over which lanes a lane for walking leads and what it is joined to, and takes one there', async () => {
  const { host } = await mounted(CrossingList, { id: 'rt_x' })
  const [item, ...others] = host.querySelectorAll('li')
  expect(others).toEqual([])
  expect(item.textContent!.replace(/\s+/g, ' ').trim()).toBe('1 to 8 m, over High Street ahead 1, High Street back 1')
  const pavement = useLevelStore().doc.roads.rd_a.lanes.find((l) => l.key === 'pl')!.laneId!
  buttonIn(host, 'High Street pavement left').click()
  expect(useSheetStore().selected).toEqual([pavement])
})

it('lets one say who waits, which can be undone', async () => {
  const { host } = await mounted(CrossingList, { id: 'rt_x' })
  const pressed = () => [...host.querySelectorAll('[aria-pressed=true]')].map((b) => b.textContent!.trim())
  expect(pressed()).toEqual(['vehicles wait'])
  buttonIn(host, 'walkers wait').click()
  await nextTick()
  expect(pressed()).toEqual(['walkers wait'])
  expect(useLevelStore().doc.routes.rt_x.atCrossings).toBe('walkers')
  useLevelStore().undo()
  await nextTick()
  expect(pressed()).toEqual(['vehicles wait'])
})

it('says that nothing is joined to a lane that is by itself', async () => {
  const { doc } = useLevelStore()
  const pavement = doc.roads.rd_a.lanes.find((l) => l.key === 'pl')!.laneId!
  const { rt_x: _gone, ...routes } = doc.routes
  useLevelStore().level = { ...doc, routes }
  const { host } = await mounted(CrossingList, { id: pavement })
  expect(host.textContent).toContain('No other lane for walking is joined to it.')
  expect(host.querySelector('[aria-pressed]')).toBeNull()
})
