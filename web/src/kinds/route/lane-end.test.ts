// @vitest-environment happy-dom
import { addThing, blankLevel, roadSchema } from '@tidytrail/core/level'
import { laneNet } from '@tidytrail/core/traffic'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it } from 'vitest'
import { nextTick } from 'vue'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import { mounted } from '../../testing/mounted'
import LaneEnd from './LaneEnd.vue'

const laneOf = (key: string) => useLevelStore().doc.roads.rd_a.lanes.find((l) => l.key === key)!.laneId!
const buttonIn = (host: HTMLElement, name: string) =>
  [...host.querySelectorAll('button')].find((b) => b.textContent!.trim() === name)

beforeEach(() => {
  setActivePinia(createPinia())
  const road = roadSchema.parse({ name: 'Quay Road', points: [[20, 40, 0], [100, 40, 0]], curve: 'straight' }) // prettier-ignore
  useLevelStore().level = addThing.apply(blankLevel('Street'), { in: 'roads', id: 'rd_a', thing: road }).level
})

it('lets those who come to the end turn round into the lane back, which is chosen then and can be undone', async () => {
  const { host } = await mounted(LaneEnd, { id: laneOf('a1') })
  expect(host.textContent).toContain('It leads on nowhere.')
  buttonIn(host, 'Turn round there')!.click()
  await nextTick()
  const [[id, link]] = Object.entries(useLevelStore().doc.links)
  expect(useSheetStore().selected).toEqual([id])
  expect(link).toMatchObject({ twoWay: false, turnM: expect.any(Number) })
  expect(laneNet(useLevelStore().doc).moves.get(id)).toMatchObject({ from: laneOf('a1'), to: laneOf('b1') })
  expect(host.textContent!.replace(/\s+/g, ' ')).toContain('Leads on into Quay Road back 1')
  useLevelStore().undo()
  await nextTick()
  expect(host.textContent).toContain('It leads on nowhere.')
})

it('lets them leave the level, and takes that back', async () => {
  const { host } = await mounted(LaneEnd, { id: laneOf('b1') })
  buttonIn(host, 'They leave the level')!.click()
  await nextTick()
  expect(useLevelStore().doc.routes[laneOf('b1')].atEnd).toBe('leave')
  expect(host.textContent).toContain('Those who come to its end leave the level.')
  buttonIn(host, 'They do not leave')!.click()
  await nextTick()
  expect(useLevelStore().doc.routes[laneOf('b1')].atEnd).toBe('unsaid')
})

it('offers no turning where no lane leads back', async () => {
  const level = useLevelStore().doc
  useLevelStore().level = { ...level, routes: { [laneOf('a1')]: level.routes[laneOf('a1')] }, roads: {} }
  const { host } = await mounted(LaneEnd, { id: Object.keys(useLevelStore().doc.routes)[0] })
  expect(buttonIn(host, 'Turn round there')).toBeUndefined()
  expect(buttonIn(host, 'They leave the level')).toBeDefined()
})
